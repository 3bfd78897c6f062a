"""From the core's nouns to what goes over the wire. Nothing is computed here."""
