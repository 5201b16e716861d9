"""Volunteers: their kits, their cards, and what these count."""
