"""Where fish went between one encounter and the next."""
