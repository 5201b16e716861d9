"""Nailwright's server."""

__version__ = "0.2.0"
