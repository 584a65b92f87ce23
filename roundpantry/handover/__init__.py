"""Hand-over: a client's booklet on paper and by a link, and what they answer."""
