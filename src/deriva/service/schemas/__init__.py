"""What comes in and goes out, as Pydantic models. Write models forbid unknown fields."""
