"""Programmes and people over HTTP."""
