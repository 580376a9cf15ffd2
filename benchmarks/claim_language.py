"""Reading claims: sentences of every kind, beside reading as many small JSON objects with the same words."""

from __future__ import annotations

import json
import time

from auditra.core.claims.language import parse_claim, promise_kinds
from benchmarks.pairs import take_pairs

ROUNDS, PAIRS, AIM_A_SECOND = 40, 9, 20_000


def main() -> None:
    sentences = [f"A1 {kind.example}" for kind in promise_kinds()]
    sentences += ["C1 gives 18 W while C2 gives 18 W", "H1+H2 show 3840x2160@60 10 bit hdr each without driver"]
    objects = [json.dumps({"subject": each.split()[0], "promise": each.split()[1:]}) for each in sentences]

    def reading_a_second() -> float:
        begun = time.perf_counter()
        for _ in range(ROUNDS):
            for sentence in sentences:
                parse_claim(sentence, claim_id="c")
        return ROUNDS * len(sentences) / (time.perf_counter() - begun)

    def objects_a_second() -> float:
        begun = time.perf_counter()
        for _ in range(ROUNDS):
            for each in objects:
                json.loads(each)
        return ROUNDS * len(objects) / (time.perf_counter() - begun)

    pairs = take_pairs(objects_a_second, reading_a_second, PAIRS)
    print(pairs.told("claims read", "a second", aim=f"aim {AIM_A_SECOND:,}; the reference is json.loads"))
    print(f"best of {PAIRS}: {max(pairs.ours):,.0f} claims a second")


if __name__ == "__main__":
    main()
