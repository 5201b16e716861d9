"""Closed seasons and spawning."""
