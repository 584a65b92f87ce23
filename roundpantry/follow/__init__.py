"""Follow: what is measured, eaten and agreed after a plan was given, and what is changed."""
