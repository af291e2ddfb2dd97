"""`python -m bench.memory load|check FILE KEY`: how many kilobytes the work adds to what the process held
before it."""

from __future__ import annotations

import gc
import resource
import sys
from pathlib import Path

import ezdxf

from evenmark.core.formats import read_file
from evenmark.core.marking import RuleSet, check_bytes, prepare


def held() -> int:
    return int(Path("/proc/self/statm").read_text().split()[1]) * resource.getpagesize() // 1024


def main() -> None:
    work, file, key_file = sys.argv[1:]
    data = Path(file).read_bytes()
    key = prepare(read_file(Path(key_file).read_bytes()), RuleSet()) if work == "check" else None
    gc.collect()
    before = held()
    # what making the key ready took at its height must not hide what the check takes
    Path("/proc/self/clear_refs").write_text("5")
    kept = check_bytes(key, data) if key is not None else ezdxf.readfile(file)
    peak = next(
        int(row.split()[1])
        for row in Path("/proc/self/status").read_text().splitlines()
        if row.startswith("VmHWM")
    )
    print(peak - before if kept is not None else 0)


if __name__ == "__main__":
    main()
