"""Permits of the programme and certificates of its people, what permits allow, and what is counted against them."""
