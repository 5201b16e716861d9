"""The demo on one's own machine, as bin/start runs it: loopback only, made-up data, sign-in by one touch."""

import os

from nailwright.config.settings.base import *  # noqa: F403
from nailwright.config.settings.base import INSTALLED_APPS

SECRET_KEY = os.environ.get("NAILWRIGHT_SECRET_KEY", "for the demo on loopback only")
ALLOWED_HOSTS = ["127.0.0.1", "localhost"]
DEBUG = False
DEMO = True
INSTALLED_APPS = [*INSTALLED_APPS, "demo.apps.DemoConfig"]  # for its command, load_demo
