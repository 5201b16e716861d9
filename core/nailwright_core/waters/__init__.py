"""Waters as measured lines, and distances on the ellipsoid."""
