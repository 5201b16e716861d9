"""Permits, qualifications, closed seasons."""
