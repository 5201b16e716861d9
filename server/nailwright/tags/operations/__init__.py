"""Entries about tags that need no outing."""
