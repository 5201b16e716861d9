"""Small simulated devices and services of the outside world, for trying and testing without them."""
