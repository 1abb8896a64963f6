"""A build held against the rules of the trade: figures gathered here, judged in `rules`."""

VERSION = "checks-2"
"""Of rules, gaps and their words: to be changed with anything that changes what they say."""
