"""Entries about what plans stand on."""
