"""How fish grow."""
