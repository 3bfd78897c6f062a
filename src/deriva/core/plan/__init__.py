"""The wide look over thousands of settings: compiled, on the server alone."""
