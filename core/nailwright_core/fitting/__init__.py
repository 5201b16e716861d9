"""What estimators share: fits, and the intervals that come of them."""
