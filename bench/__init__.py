"""Measurements that bin/bench prints: each against what the same work costs without us."""
