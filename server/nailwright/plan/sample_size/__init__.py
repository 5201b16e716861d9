"""How much is enough."""
