"""The made-up Ossling basin: geometry, fish with known truth, outings. Everything in it is invented.

A Django app for its one command, ``manage.py load_demo``; real installations go without it.
"""
