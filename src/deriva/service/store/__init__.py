"""Tables, queries and migrations on PostgreSQL."""
