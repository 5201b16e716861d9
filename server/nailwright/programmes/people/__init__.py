"""Accounts, members, and how they come in."""
