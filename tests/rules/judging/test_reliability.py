"""How far a test repeats itself in a school: from children who did it twice within two weeks."""

from __future__ import annotations

import numpy as np
import pytest

from lauf.rules.judging.reliability import agreement, reliability
from tests.support import references


@pytest.mark.filterwarnings("ignore::pandas.errors.Pandas4Warning")
def test_reliability_against_pingouin_on_open_data() -> None:
    """Linnerud's exercise data (20 men), shipped with scikit-learn: chin-ups and sit-ups taken as
    two sittings each of a made-up second day; ICC(3,1) as pingouin has it."""
    frame = references.pandas.DataFrame(
        references.datasets.load_linnerud().data, columns=["chins", "situps", "jumps"]
    ).astype(int)
    shift = np.random.default_rng(4).normal(1, 3, len(frame))
    for name in frame.columns:
        again = (frame[name] + shift).round().clip(lower=1).astype(int)
        pairs = [(int(a), int(b)) for a, b in zip(frame[name], again, strict=True)]
        long = references.pandas.DataFrame(
            {
                "child": [*range(len(pairs))] * 2,
                "day": ["one"] * len(pairs) + ["two"] * len(pairs),
                "score": [a for a, _ in pairs] + [b for _, b in pairs],
            }
        )
        table = references.pingouin.intraclass_corr(long, "child", "day", "score").set_index("Type")
        expected = next(
            float(table.loc[kind, "ICC"]) for kind in ("ICC3", "ICC(C,1)") if kind in table.index
        )
        found = reliability(pairs)
        assert found is not None and found.icc == pytest.approx(expected, abs=1e-9)
        differences = [b - a for a, b in pairs]
        assert found.typical_error == pytest.approx(np.std(differences, ddof=1) / np.sqrt(2))
        assert found.learning == pytest.approx(np.mean(differences))


@pytest.mark.filterwarnings("ignore::pandas.errors.Pandas4Warning")
def test_agreement_of_two_counters_against_pingouin() -> None:
    """ICC(A,1) as pingouin has it, on Linnerud's sit-ups counted by a second, slower counter."""
    counts = references.datasets.load_linnerud().data[:, 1].astype(int)
    shift = np.random.default_rng(9).integers(-4, 2, len(counts))
    pairs = [(int(a), int(a + b)) for a, b in zip(counts, shift, strict=True)]
    long = references.pandas.DataFrame(
        {
            "child": [*range(len(pairs))] * 2,
            "by": ["one"] * len(pairs) + ["two"] * len(pairs),
            "count": [a for a, _ in pairs] + [b for _, b in pairs],
        }
    )
    table = references.pingouin.intraclass_corr(long, "child", "by", "count").set_index("Type")
    expected = next(
        float(table.loc[kind, "ICC"]) for kind in ("ICC2", "ICC(A,1)") if kind in table.index
    )
    found = agreement(pairs)
    assert found is not None and found.icc == pytest.approx(expected, abs=1e-9)
    assert found.shift == pytest.approx(np.mean(shift))
    assert found.spread == pytest.approx(1.96 * np.std(shift, ddof=1))
    assert found.same == np.mean(shift == 0)
    assert agreement(pairs[:9]) is None


def test_too_few_pairs_or_no_spread_say_nothing() -> None:
    assert reliability([(n, n + 1) for n in range(9)]) is None
    same = reliability([(12, 12)] * 12)
    assert same is not None and same.icc is None and same.typical_error == 0
