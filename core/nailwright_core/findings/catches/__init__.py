"""What catches say without marks: catch per effort, between groups of runs and along the water."""
