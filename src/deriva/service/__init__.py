"""The web service: FastAPI over use cases over a PostgreSQL store; the rules of the job stay in the core."""
