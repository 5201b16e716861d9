"""The ground of server: refusals and their one shape, reading single values, what every row shares. Knows no app."""
