"""What the API takes and gives, typed, one module a place; the front end's types are generated from these."""
