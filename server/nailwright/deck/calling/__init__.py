"""Calling fish: read, kept, put right, taken out."""
