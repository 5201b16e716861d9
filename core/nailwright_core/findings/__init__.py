"""What the fish say about their population. Uses ``common`` only."""
