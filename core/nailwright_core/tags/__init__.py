"""Marks in and on fish."""
