"""Marks: tags in stock and in fish, and the individuals known by them."""
