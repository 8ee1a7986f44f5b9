"""What is counted of a run, each with its definition, and of many runs together."""

import statistics
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field


@dataclass
class Slip:
    """One slip of a technician: what it was, whether it would have changed a decision, and what became of it.

    `matters` a word, a part taken, a proof or a stop differs from what it would have been. `contradicts` something on record (a
    marking, a reading, a plan) speaks against it. `asked` the product asked, refused or wanted it again before anything rested on
    it.
    """

    kind: str
    said: str
    matters: bool = False
    contradicts: bool = False
    asked: bool = False


@dataclass
class Run:
    """One job and what was counted of it.

    `touched` hands on more than 50 V while the record said proved or the plan said empty by now (once a place). `outlived`
    proofs below 5 V of parts that creep back, of which more came back while they still held. `unfit` parts taken that by what
    they are may not take the place. `bad_kept`, `good_replaced` of `bad`, `good` parts judged: by what they are, with twice
    the meter's error either way, *watch* not kept; a set replaced by policy not counted; with a meter out of calibration
    apart, in `uncalibrated`. `intermittent_kept` joints that touched whenever they were measured. `endless` verdicts that
    neither ended nor said what to measure, or a job that went round for ever. `missed_stop` steps of a first power at which
    rail or current were beside the manual by twice what is as expected, and the product let go on; `needless_stop` those with
    no fault to find. `returns` sets with a fault in them at the hand-back, or within a year of wear after it. `waits` jobs
    that ended with a part to be ordered or somebody licensed to be called. `measurements` for each part judged, `questions`
    and `steps` of the job.
    """

    set_id: str
    seed: int
    technician: str
    story: list[str] = field(default_factory=list)
    touched: int = 0
    outlived: int = 0
    unfit: int = 0
    bad: int = 0
    bad_kept: int = 0
    good: int = 0
    good_replaced: int = 0
    intermittent_kept: int = 0
    uncalibrated: int = 0
    endless: int = 0
    missed_stop: int = 0
    needless_stop: int = 0
    returns: int = 0
    waits: int = 0
    measurements: list[int] = field(default_factory=list)
    questions: int = 0
    steps: int = 0
    slips: list[Slip] = field(default_factory=list)

    def tell(self, sentence: str) -> None:
        """One step of the story."""
        self.steps += 1
        self.story.append(sentence)

    @property
    def badness(self) -> tuple[int, ...]:
        """For the worst first."""
        return (self.touched, self.unfit, self.missed_stop, self.endless, self.bad_kept, self.good_replaced, self.waits)


@dataclass(frozen=True)
class Counts:
    """Many runs together; `bad_kept` and `good_replaced` are shares of the bad and of the good parts that were judged."""

    runs: int
    touched: int
    unfit: int
    bad_kept: float
    good_replaced: float
    endless: int
    missed_stop: int
    median_measurements: float
    median_questions: float
    median_steps: float
    bad: int
    good: int
    uncalibrated: int
    intermittent_kept: int
    needless_stop: int
    returns: int
    waits: int
    outlived: int
    slips: int
    slips_that_matter: int
    contradicted: int
    asked: int


def count(runs: Sequence[Run]) -> Counts:
    """Sum up runs.

    :param runs: any number
    :returns: Counts; medians are 0 of nothing
    :source: the definitions of `Run` and `Slip`
    """
    slips = [slip for run in runs for slip in run.slips]
    mattering = [slip for slip in slips if slip.matters]
    against = [slip for slip in mattering if slip.contradicts]
    bad, good = _sum(runs, "bad"), _sum(runs, "good")
    return Counts(
        runs=len(runs),
        touched=_sum(runs, "touched"),
        unfit=_sum(runs, "unfit"),
        bad_kept=round(_sum(runs, "bad_kept") / bad, 6) if bad else 0.0,
        good_replaced=round(_sum(runs, "good_replaced") / good, 6) if good else 0.0,
        endless=_sum(runs, "endless"),
        missed_stop=_sum(runs, "missed_stop"),
        median_measurements=_median([n for run in runs for n in run.measurements]),
        median_questions=_median([run.questions for run in runs]),
        median_steps=_median([run.steps for run in runs]),
        bad=bad,
        good=good,
        uncalibrated=_sum(runs, "uncalibrated"),
        intermittent_kept=_sum(runs, "intermittent_kept"),
        needless_stop=_sum(runs, "needless_stop"),
        returns=_sum(runs, "returns"),
        waits=_sum(runs, "waits"),
        outlived=_sum(runs, "outlived"),
        slips=len(slips),
        slips_that_matter=len(mattering),
        contradicted=len(against),
        asked=sum(slip.asked for slip in against),
    )


def _sum(runs: Iterable[Run], name: str) -> int:
    return sum(getattr(run, name) for run in runs)


def _median(values: Sequence[float]) -> float:
    return float(statistics.median(values)) if values else 0.0
