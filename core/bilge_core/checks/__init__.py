"""A build held against the rules of the trade: figures gathered here, judged in `rules`."""
