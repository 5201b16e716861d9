"""Every write of the deck, one file for what it is about. Each asks who may, lets core check, and writes the history."""
