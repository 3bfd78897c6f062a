"""Routers by noun, and errors in one place."""
