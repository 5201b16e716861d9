"""What estimators share: a declared model, its maximum, profile intervals, comparison, simulation and coverage."""
