"""Surveys as a whole: the question, targets, days, and what past data say."""
