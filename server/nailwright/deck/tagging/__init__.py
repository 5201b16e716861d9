"""Quotas of tags."""
