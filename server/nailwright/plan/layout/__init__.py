"""Where the sites lie along the reach."""
