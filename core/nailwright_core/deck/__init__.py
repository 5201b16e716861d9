"""Rules of the working deck. Uses ``common`` only."""
