"""Small simulated outside services, which ship with Even Mark until a school connects its own."""
