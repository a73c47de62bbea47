"""The ten best networks of three and of four resistors for a target, by a brute force over all combinations with numpy, and
by the server over HTTP; seven decades of E24. Prints both and how many times the one takes the other."""
import json
import sys
import time
import urllib.request

import numpy as np

E24 = [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91]
VALUES = np.array([m * 10.0**d for d in range(-1, 6) for m in E24])
TARGET = 33_333.3


def parallel(a, b):
    return a * b / (a + b)


# Every shape of two parts, and what a further part makes of each.
TWO = [np.add, parallel]


def best(totals, kept=10):
    """The ten nearest of an array of totals."""
    off = np.abs(totals.ravel() - TARGET)
    return np.partition(off, kept)[:kept]


def three():
    a, b, c = VALUES[:, None, None], VALUES[None, :, None], VALUES[None, None, :]
    found = []
    for inner in TWO:
        pair = inner(a, b)
        for outer in TWO:
            found.append(best(outer(pair, c)))
    return np.sort(np.concatenate(found))[:10]


def four(share):
    """A share of the first values: the whole takes minutes."""
    some = VALUES[:: int(1 / share)]
    found = []
    for a in some:
        b, c, d = VALUES[:, None, None], VALUES[None, :, None], VALUES[None, None, :]
        for inner in TWO:
            for middle in TWO:
                for outer in TWO:
                    found.append(best(outer(middle(inner(a, b), c), d)))
        for left in TWO:
            for right in TWO:
                for outer in TWO:
                    found.append(best(outer(left(a, b), right(c, d))))
    return np.sort(np.concatenate(found))[:10], len(some) / len(VALUES)


def timed(work, times):
    took = []
    for _ in range(times):
        begun = time.perf_counter()
        got = work()
        took.append(time.perf_counter() - begun)
    return sorted(took)[len(took) // 2], got


def asked(parts):
    body = {"kind": "resistor", "target": TARGET, "max_parts": parts, "from": {"series": "E24", "low": 1, "high": 9.1e6}}
    request = urllib.request.Request(
        sys.argv[1] + "/api/combine", json.dumps(body).encode(), {"content-type": "application/json"}
    )
    with urllib.request.urlopen(request) as answer:
        return json.load(answer)


brute, found = timed(three, 3)
ours, got = timed(lambda: asked(3), 30)
nearest = abs(got["networks"][0]["value"] - TARGET)
print(f"three parts: numpy {brute * 1e3:.0f} ms, over HTTP {ours * 1e3:.1f} ms: {brute / ours:.0f} times; "
      f"nearest {found[0]:.4g} and {nearest:.4g} ohm off")
begun = time.perf_counter()
_, share = four(1 / 56)
brute = (time.perf_counter() - begun) / share
ours, _ = timed(lambda: asked(4), 10)
print(f"four parts: numpy {brute:.0f} s (a {1 / share:.0f}th of it measured), over HTTP {ours * 1e3:.1f} ms: {brute / ours:.0f} times")
