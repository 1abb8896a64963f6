"""The limits of the trade, each once: with its source, its words, its place and what mends it."""
