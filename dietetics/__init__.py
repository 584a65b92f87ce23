"""The rules of the job: amounts, composition, dishes and targets, in plain Python without a web
framework.
"""
