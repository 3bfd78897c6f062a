"""One thing an angler does per function: load, call the core, store. No FastAPI, no SQL text."""
