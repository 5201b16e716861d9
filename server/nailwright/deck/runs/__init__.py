"""Runs: effort, water, tracks, passes."""
