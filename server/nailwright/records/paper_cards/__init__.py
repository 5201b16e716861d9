"""Paper cards of volunteers: many at once, typed line by line or out of a file."""
