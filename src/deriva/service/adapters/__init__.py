"""Outside services, over HTTP."""
