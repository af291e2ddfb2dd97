"""What is kept: tables, sessions, migrations, and the queue that lives in the same database."""
