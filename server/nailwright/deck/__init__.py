"""The outing as it happens: runs, water readings, captures, and the sync that brings them from the deck."""
