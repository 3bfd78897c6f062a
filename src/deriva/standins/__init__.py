"""Small simulated services that ship with Deriva, spoken to over HTTP as real ones would be. They import nothing of it."""
