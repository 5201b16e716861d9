"""Nailwright's server."""

__version__ = "0.9.0"
