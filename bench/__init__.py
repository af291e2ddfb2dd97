"""Speed, as ratios within one run: never seconds, which say more about the machine than about the code."""
