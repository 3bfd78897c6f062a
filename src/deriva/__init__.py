"""Deriva: read the lie, choose and set the rig, see the drift, log it."""

__version__ = "0.1.0"
