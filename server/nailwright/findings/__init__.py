"""Answers about the population: a selection of captures, core's computation, and the rows behind it."""
