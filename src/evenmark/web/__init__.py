"""Flask: routes, sign-in, permissions, request and response models, error mapping."""
