"""The tests, as bin/test runs them, against a MariaDB instance of their own."""

from nailwright.config.settings.base import *  # noqa: F403
from nailwright.config.settings.base import INSTALLED_APPS

SECRET_KEY = "for the tests only"
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
DEMO = True
INSTALLED_APPS = [*INSTALLED_APPS, "demo.apps.DemoConfig"]  # for its command, load_demo
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]  # speed only; no real person signs in here
