"""The nouns: water, situation, rig and tuning, a drift as logged, a caution, a quantity; ranges stand on their fields."""
