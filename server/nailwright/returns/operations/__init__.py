"""What volunteers' phones send."""
