"""Marked fish in open files: encounters, reports of tags, tags at large."""
