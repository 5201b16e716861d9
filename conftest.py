"""For all tests: how inputs are made up (hypothesis). No test of ours fails because the machine was slow at that moment."""

from hypothesis import HealthCheck, settings

settings.register_profile("any machine", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("any machine")
