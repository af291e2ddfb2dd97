"""What `./even-mark-code SIGN-IN` runs: gives somebody a one-time code to choose a new password with, whoever
they are."""

from __future__ import annotations

import sys
from pathlib import Path

from scripts.backup import Refused, at_hand
from scripts.cluster import Cluster, ClusterError, data_folder

ROOT = Path(__file__).resolve().parent.parent


def code_for(cluster: Cluster, sign_in: str) -> str:
    """Return a new one-time code for the person of a sign-in name. Raises Refused."""
    from evenmark.services.people import new_first_code, person_of
    from evenmark.store.database import Database

    if not (cluster.folder / "PG_VERSION").exists():
        raise Refused("There are no data yet: start Even Mark first.")
    with at_hand(cluster):
        database = Database(cluster.url)
        try:
            with database.transaction() as session:
                person = person_of(session, sign_in)
                if person is None:
                    raise Refused(f"Nobody signs in as {sign_in}: check the name.")
                return new_first_code(session, person)
        finally:
            database.close()


def main() -> None:
    """Take the sign-in name from the command line."""
    if len(sys.argv) != 2 or sys.argv[1].startswith("-"):
        raise Refused("Name whom the code is for: ./even-mark-code SIGN-IN.")
    try:
        code = code_for(Cluster(data_folder(ROOT)), sys.argv[1])
    except ClusterError as why:
        raise Refused(str(why)) from why
    print(
        f"{sys.argv[1]} chooses a new password at the page /first with {code}. It works once, for an "
        "instructor within an hour."
    )


if __name__ == "__main__":
    main()
