"""A survey rehearsed on simulated fish."""
