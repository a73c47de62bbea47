"""Writes ngspice.csv: series-parallel networks solved by the circuit simulator ngspice, as an
outside check of how the parts share voltage and current.

    apt-get install ngspice && python3 make.py
"""
import csv
import random
import re
import subprocess

random.seed(60063)
E12 = [1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]


def part():
    return random.choice(E12) * 10 ** random.randint(1, 5)


def tree(depth):
    if depth == 0 or random.random() < 0.3:
        return part()
    return random.choice("sp"), [tree(depth - 1) for _ in range(random.randint(2, 3))]


def write(t):
    return f"{t:.6g}" if not isinstance(t, tuple) else t[0] + "(" + " ".join(write(c) for c in t[1]) + ")"


def netlist(t):
    lines, ends, fresh = [], [], [0]

    def down(t, a, b):
        if not isinstance(t, tuple):
            lines.append(f"R{len(ends) + 1} {a} {b} {t:.12g}")
            ends.append((a, b))
        elif t[0] == "p":
            for c in t[1]:
                down(c, a, b)
        else:
            at = a
            for i, c in enumerate(t[1]):
                if i == len(t[1]) - 1:
                    to = b
                else:
                    fresh[0] += 1
                    to = f"n{fresh[0]}"
                down(c, at, to)
                at = to

    down(t, "top", "0")
    return lines, ends


with open("ngspice.csv", "w", newline="") as f:
    w = csv.writer(f, lineterminator="\n")
    w.writerow(["network", "volts", "part", "volts_across", "source"])
    version = re.search(r"ngspice-(\d+)", subprocess.run(["ngspice", "-v"], capture_output=True, text=True).stdout).group(1)
    for _ in range(24):
        t = ("s", [tree(2), tree(2)])
        volts = random.choice([1.5, 6.3, 90, 250, 420])
        lines, ends = netlist(t)
        nodes = sorted({n for pair in ends for n in pair} - {"0"})
        text = "\n".join(["network", f"V1 top 0 {volts}", *lines, ".control", "set numdgt=12", "op"])
        text += "\n" + "\n".join(f"print v({n})" for n in nodes) + "\n.endc\n.end\n"
        out = subprocess.run(["ngspice", "-b", "/dev/stdin"], input=text, capture_output=True, text=True).stdout
        v = {n: float(x) for n, x in re.findall(r"v\((\w+)\) = ([-\d.e+]+)", out)} | {"0": 0.0}
        for i, (a, b) in enumerate(ends):
            w.writerow([write(t), volts, i, f"{v[a] - v[b]:.10g}", f"ngspice {version} (Debian)"])
