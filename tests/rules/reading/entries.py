"""Entries as people write them on paper and on phones, over every kind of score: what each is read
as, and which come back with a question or a sentence.

Exact factors: 1 ft = 304.8 mm, 1 in = 25.4 mm, 1 yd = 914.4 mm, 1 lb = 453.59237 g (agreement of
1959); 1 stone = 14 lb. The ways of writing are common practice.
"""

from __future__ import annotations

from lauf.rules.reading.quantities import Better, Kind, Measure
from lauf.rules.reading.shuttle import EVEN, JUMP, shuttle_table

COUNT = Measure(Kind.COUNT, highest=200, cap=60)
MANY = Measure(Kind.COUNT, highest=5_000)
KNEES = Measure(Kind.COUNT, highest=60, variants=("on the knees", "full"))
HOLD = Measure(Kind.TIME, unit="s", resolution=100, highest=900_000)
SPRINT = Measure(Kind.TIME, Better.DOWN, "s", 10, 20_000, 2_000)
MILE = Measure(
    Kind.TIME, Better.DOWN, "s", 1000, 3_600_000, 240_000, lap_mm=402_336, target_mm=1_609_344
)
LONG_JUMP = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=4_000)
THROW = Measure(Kind.LENGTH, unit="cm", resolution=10, highest=30_000)
IN_METRES = Measure(Kind.LENGTH, unit="m", resolution=10, highest=60_000)
IN_INCHES = Measure(Kind.LENGTH, unit="in", resolution=1, highest=4_000)
REACH = Measure(Kind.MARKS, unit="cm", resolution=10, highest=1_000)
BOX = Measure(Kind.OFFSET, unit="cm", resolution=5, lowest=-400, highest=400)
WALL = Measure(Kind.OFFSET, unit="cm", resolution=10, lowest=-400, highest=0, cap=0)
SIDES = Measure(Kind.SIDES, highest=2)
HITS = Measure(Kind.HITS, highest=10, of=10)
THREE = Measure(Kind.HITS, highest=3, of=3)
STAGED = Measure(Kind.STAGE, highest=sum(shuttle_table(EVEN)), schedule=EVEN)
STAGED_JUMP = Measure(Kind.STAGE, highest=sum(shuttle_table(JUMP)), schedule=JUMP)
LAPS = Measure(Kind.LAPS, unit="m", resolution=100, highest=5_000_000, lap_mm=48_000)
TOTAL = Measure(Kind.TOTAL, highest=3_000)
WEIGHT = Measure(Kind.MASS, unit="kg", resolution=100, lowest=8_000, highest=150_000)
PULSE = Measure(Kind.PULSE, unit="bpm", lowest=30, highest=240)

#: (typed, measure, canonical value)
GOOD: list[tuple[str, Measure, int]] = [
    # Counts
    ("42", COUNT, 42), (" 7 ", COUNT, 7), ("0", COUNT, 0), ("60", COUNT, 60), ("007", COUNT, 7),
    ("42 reps", COUNT, 42), ("1,250", MANY, 1250), ("1250", MANY, 1250), ("5 times", COUNT, 5),
    # Times
    ("1:05", HOLD, 65_000), ("1:05.3", HOLD, 65_300), ("65", HOLD, 65_000), ("65.3", HOLD, 65_300),
    ("65,3", HOLD, 65_300), ("95s", HOLD, 95_000), ("95 sec", HOLD, 95_000),
    ("95 secs", HOLD, 95_000), ("95 seconds", HOLD, 95_000), ("1 second", HOLD, 1_000),
    ("1m05", HOLD, 65_000), ("1m05s", HOLD, 65_000), ("1 min 5 s", HOLD, 65_000),
    ("1 minute 5 seconds", HOLD, 65_000), ("2 minutes and 5 seconds", HOLD, 125_000),
    ("2m", HOLD, 120_000), ("2 mins", HOLD, 120_000), ("2 minutes", HOLD, 120_000),
    ("1½ min", HOLD, 90_000), ("1'05\"", HOLD, 65_000), ("1′05″", HOLD, 65_000),
    ("1’05”", HOLD, 65_000), ("1'5\"", HOLD, 65_000), ("45\"", HOLD, 45_000), ("45″", HOLD, 45_000),
    ("2'", HOLD, 120_000), ("1'05.3\"", HOLD, 65_300), ("1'05", HOLD, 65_000),
    ("1''", HOLD, 1_000), ("1/2 min", HOLD, 30_000), ("0:05:30.5", HOLD, 330_500),
    ("½ s", HOLD, 500), ("0.5", HOLD, 500), (".5", HOLD, 500), ("1.05s", HOLD, 1_100),
    ("9.87", SPRINT, 9_870), ("9,87", SPRINT, 9_870), ("9.8749", SPRINT, 9_870),
    ("9.87 s.", SPRINT, 9_870), ("9:58", MILE, 598_000), ("9:58 min", MILE, 598_000),
    ("12m30", MILE, 750_000), ("12 min 30 sec", MILE, 750_000), ("12'30\"", MILE, 750_000),
    ("2:20 4:55 7:30 9:58", MILE, 598_000), ("10 min", MILE, 600_000), ("598", MILE, 598_000),
    # Lengths
    ("127", LONG_JUMP, 1270), ("127cm", LONG_JUMP, 1270), ("127 cms", LONG_JUMP, 1270),
    ("127 centimetres", LONG_JUMP, 1270), ("127.5", LONG_JUMP, 1280), ("127½", LONG_JUMP, 1280),
    ("33 1/2", LONG_JUMP, 340), ("33½", LONG_JUMP, 340), ("33 ½", LONG_JUMP, 340),
    ("9.48cm", LONG_JUMP, 90),
    ("1.27m", LONG_JUMP, 1270), ("1,27 m", LONG_JUMP, 1270), ("1.27 metres", LONG_JUMP, 1270),
    ("1.27 meters", LONG_JUMP, 1270), ("1m27", LONG_JUMP, 1270), ("1m 27cm", LONG_JUMP, 1270),
    ("1 m 27", LONG_JUMP, 1270), ("1 metre 27 centimetres", LONG_JUMP, 1270),
    ("1 m 5 cm", LONG_JUMP, 1050), ("1m05", LONG_JUMP, 1050), ("1 metre and 5 cm", LONG_JUMP, 1050),
    ("4ft 2in", LONG_JUMP, 1270), ("4'2\"", LONG_JUMP, 1270), ("4′2″", LONG_JUMP, 1270),
    ("4’2”", LONG_JUMP, 1270), ("4'2", LONG_JUMP, 1270), ("4`2", LONG_JUMP, 1270),
    ("4 feet 2 inches", LONG_JUMP, 1270), ("4 foot 2", LONG_JUMP, 1270), ("4ft2", LONG_JUMP, 1270),
    ("4'2½\"", LONG_JUMP, 1280), ("4' 2 1/2\"", LONG_JUMP, 1280), ("4 ft", LONG_JUMP, 1220),
    ("4'", LONG_JUMP, 1220), ("50in", LONG_JUMP, 1270), ("50\"", LONG_JUMP, 1270),
    ("50''", LONG_JUMP, 1270), ("49 1/2 inches", LONG_JUMP, 1260), ("49½in", LONG_JUMP, 1260),
    ("1270mm", LONG_JUMP, 1270), ("1yd", LONG_JUMP, 910), ("1½ yards", LONG_JUMP, 1370),
    ("1274 mm", LONG_JUMP, 1270), ("1275mm", LONG_JUMP, 1280), ("41", IN_INCHES, 1041),
    ("41 1/2", IN_INCHES, 1054), ("41½", IN_INCHES, 1054), ("41.5", IN_INCHES, 1054),
    ("105cm", IN_INCHES, 1050), ("3'5\"", IN_INCHES, 1041), ("12.4", IN_METRES, 12_400),
    ("12,4", IN_METRES, 12_400), ("40 feet", IN_METRES, 12_190), ("12m 40", IN_METRES, 12_400),
    ("1,270m", IN_METRES, 1_270),
    ("4m", THROW, 4_000), ("4cm", THROW, 40), ("4 ft", THROW, 1_220), ("1240", THROW, 12_400),
    ("0", LONG_JUMP, 0),
    # Two marks
    ("142 171", REACH, 290), ("142/171", REACH, 290), ("142,171", REACH, 290),
    ("142, 171", REACH, 290), ("142 to 171", REACH, 290), ("142 -> 171", REACH, 290),
    ("142→171", REACH, 290), ("142cm 171cm", REACH, 290), ("142 cm 171 cm", REACH, 290),
    ("142 171cm", REACH, 290), ("1.42m 1.71m", REACH, 290), ("1.42 m then 1.71 m", REACH, 290),
    ("142-171", REACH, 290), ("142 – 171", REACH, 290), ("142; 171", REACH, 290),
    ("142cm 1.71m", REACH, 290), ("4'8 5'7", REACH, 280), ("4ft 8in 5ft 7in", REACH, 280),
    ("4 ft 8 in 5 ft 7 in", REACH, 280), ("4'8\"/5'7\"", REACH, 280), ("1m42 1m71", REACH, 290),
    ("56in 67 1/2in", REACH, 290), ("29", REACH, 290), ("29cm", REACH, 290),
    ("29½", REACH, 300), ("29 1/2 cm", REACH, 300),
    ("11 1/2\"", REACH, 290), ("4.25 ft", LONG_JUMP, 1300), ("7/8 lap", LAPS, 42_000),
    ("11in", REACH, 280),
    # 171.4 − 142.3 = 29.1: subtracted first, rounded after (each rounded it would be 29).
    ("142.3 171.4", Measure(Kind.MARKS, unit="cm", resolution=1, highest=1_000), 291),
    ("142.4 170.5", REACH, 280), ("142.6 171.4", REACH, 290), ("142 142", REACH, 0),
    # From zero
    ("-5", BOX, -50), ("−5", BOX, -50), ("–5", BOX, -50), ("+3", BOX, 30), ("3", BOX, 30),
    ("0", BOX, 0), ("-2.5", BOX, -25), ("-2,5", BOX, -25), ("-2½", BOX, -25), ("-2in", BOX, -50),
    ("5 short", BOX, -50), ("3 past", BOX, 30), ("3cm beyond", BOX, 30), ("+ 3cm", BOX, 30),
    ("-0", WALL, 0), ("-8", WALL, -80), ("8 short", WALL, -80), ("0", WALL, 0),
    # Sides
    ("L y R n", SIDES, 1), ("l y r y", SIDES, 2), ("R n L n", SIDES, 0), ("R y L n", SIDES, 1),
    ("y n", SIDES, 1), ("yy", SIDES, 2), ("n,y", SIDES, 1), ("both", SIDES, 2), ("none", SIDES, 0),
    ("neither", SIDES, 0), ("✓ ✗", SIDES, 1), ("✓✓", SIDES, 2), ("✗✗", SIDES, 0), ("✔ ✘", SIDES, 1),
    ("yes/no", SIDES, 1), ("Ly Rn", SIDES, 1), ("left yes right no", SIDES, 1),
    ("right yes, left no", SIDES, 1), ("L: ✓ R: ✗", SIDES, 1), ("✓ L, ✗ R", SIDES, 1),
    ("yes left no right", SIDES, 1), ("left only", SIDES, 1), ("only right", SIDES, 1),
    ("y x", SIDES, 1), ("✓ ×", SIDES, 1), ("L x R y", SIDES, 1), ("2/2", SIDES, 2),
    ("L=y R=n", SIDES, 1), ("1 0", SIDES, 1), ("L R y y", SIDES, 2), ("tick cross", SIDES, 1),
    # Hits
    ("7/10", HITS, 7), ("7", HITS, 7), ("7 of 10", HITS, 7), ("0", HITS, 0), ("7 hits", HITS, 7),
    ("xxoxooxxxo", HITS, 6), ("x x o x o o x x x o", HITS, 6), ("10 out of 10", HITS, 10),
    ("✓✓✗✓✗✗✓✓✓✗", HITS, 6), ("✓x✓", THREE, 2), ("✓✓✓", THREE, 3), ("✗✗✗", THREE, 0),
    ("ooo", THREE, 0), ("XOX", THREE, 2),
    # Stages
    ("4.6", STAGED, 29), ("1.0", STAGED, 0), ("1.7", STAGED, 7), ("2.1", STAGED, 8),
    ("2.8", STAGED_JUMP, 15), ("5:3", STAGED, 34), ("4 6", STAGED, 29), ("4/6", STAGED, 29),
    ("stage 4 shuttle 6", STAGED, 29), ("4,6", STAGED, 29),
    # Laps
    ("7", LAPS, 336_000), ("7+12m", LAPS, 348_000), ("7+12", LAPS, 348_000), ("7.5", LAPS, 360_000),
    ("7,5", LAPS, 360_000), ("7 laps", LAPS, 336_000), ("1 lap", LAPS, 48_000),
    ("7 laps 12 m", LAPS, 348_000), ("7 laps and 12 metres", LAPS, 348_000),
    ("480m", LAPS, 480_000), ("480 metres", LAPS, 480_000), ("500yd", LAPS, 457_200),
    ("7½", LAPS, 360_000), ("7½ laps", LAPS, 360_000), ("0", LAPS, 0),
    ("½", LAPS, 24_000), ("3/4 lap", LAPS, 36_000), ("7.25", LAPS, 348_000),
    ("7.05 laps", LAPS, 338_400), ("1.2km", LAPS, 1_200_000),
    # Totals
    ("250", TOTAL, 250), ("50+60+40", TOTAL, 150), ("c40+100+60", TOTAL, 200),
    ("c40 + 20", TOTAL, 60), ("0", TOTAL, 0), ("1,240", TOTAL, 1240),
    # Weights
    ("31.5", WEIGHT, 31_500), ("31.5kg", WEIGHT, 31_500), ("31,5 kg", WEIGHT, 31_500),
    ("31.5 kgs", WEIGHT, 31_500), ("31½", WEIGHT, 31_500), ("31 kilos", WEIGHT, 31_000),
    ("31 kg 500 g", WEIGHT, 31_500), ("69lb", WEIGHT, 31_300), ("69 lbs", WEIGHT, 31_300),
    ("69 pounds", WEIGHT, 31_300), ("4st 13lb", WEIGHT, 31_300), ("4 st 13", WEIGHT, 31_300),
    ("4 stone 13 pounds", WEIGHT, 31_300), ("5 stone", WEIGHT, 31_800), ("4½ st", WEIGHT, 28_600),
    ("31500g", WEIGHT, 31_500), ("31,500 g", WEIGHT, 31_500),
    # Pulses
    ("132", PULSE, 132), ("22/10s", PULSE, 132), ("22/10", PULSE, 132), ("33 in 15", PULSE, 132),
    ("22 in 10 seconds", PULSE, 132), ("66/30", PULSE, 132), ("132bpm", PULSE, 132),
    ("44/20s", PULSE, 132), ("22×6", PULSE, 132), ("22 beats in 10 s", PULSE, 132),
    ("132 a minute", PULSE, 132),
]  # fmt: skip

#: (typed, measure, readings offered)
ASKED: list[tuple[str, Measure, list[int | None]]] = [
    ("1.05", HOLD, [65_000, 1_100]), ("2.30", HOLD, [150_000, 2_300]),
    ("0.45", HOLD, [45_000, 500]), ("9.58", MILE, [598_000]), ("12", MILE, [720_000]),
    ("9.5", MILE, [570_000, 545_000, 590_000]), ("1:5", HOLD, [65_000, 110_000]),
    ("1m5", HOLD, [65_000, 110_000]),
    ("1:7", HOLD, [67_000]), ("1:5.3", HOLD, [65_300]), ("1'5", HOLD, [65_000, 110_000]),
    ("1.5 min", HOLD, [90_000, 65_000, 110_000]), ("1.25 min", HOLD, [75_000, 85_000]),
    ("480m", MILE, [None]), ("2:20 4:55 7:30", MILE, [None]),
    ("4", THROW, [4_000, 40]), ("1.27", LONG_JUMP, [1270, 10]), ("9.48", LONG_JUMP, [90]),
    ("1.27", REACH, [10]), ("12.40", THROW, [12_400, 120]),
    ("0.45", THROW, [450, 0]), ("4.2", THROW, [4_200, 40]),
    # The key was pressed a moment too early, or it is the end of a sentence.
    ("1.", HOLD, [1_000]), ("42.", COUNT, [42]), ("1:05.", HOLD, [65_000]), ("-2.", BOX, [-20]),
    # A fraction of a second, or of a minute.
    ("½", HOLD, [500, 30_000]), ("¾", HOLD, [800, 45_000]), ("1½", HOLD, [1_500, 90_000]),
    ("12 1/2", HOLD, [12_500, 750_000]), ("1/2", HOLD, [500, 30_000]),
    # Hours, or hundredths of a stopwatch.
    ("0:05:30", HOLD, [330_000, 5_300]), ("1:05:09", HOLD, [65_100]), ("0:09:58", MILE, [598_000]),
    # Inches, or tenths of a foot.
    ("4.11 ft", LONG_JUMP, [1500, 1250]), ("5.11'", LONG_JUMP, [1800, 1560]),
    ("4.5 ft", LONG_JUMP, [1350, 1370]), ("4.1ft", LONG_JUMP, [1240, 1250]),
    # A comma or a point between thousands, or before a part.
    ("1,275", THROW, [12_750, 1_280, 10]), ("1.200m", LAPS, [1_200_000, 1_200]),
    ("7/8 laps", LAPS, [42_000, 336_000]), ("1/2 laps", LAPS, [24_000, 48_000]),
    ("--", SIDES, [0]), ("- -", SIDES, [0]), ("-/-", SIDES, [0]),
    ("4.2", LONG_JUMP, [40]), ("336", LAPS, [336_000]),
    ("3/4", LAPS, [36_000, 144_000]), ("7.05", LAPS, [341_000, 338_400]),
    ("3", IN_INCHES, [914, 76]), ("1240", IN_METRES, [1_240, 12_400]),
    ("1m5", LONG_JUMP, [1050, 1500]),
    ("1.42 1.71", REACH, [290]), ("1.42m 171", REACH, [290]), ("142 1.71m", REACH, [290]),
    ("56 67in", REACH, [280]), ("8", WALL, [-80]),
    ("L", SIDES, [1]), ("xx", SIDES, [0, 2]), ("× ×", SIDES, [0, 2]), ("L x R n", SIDES, [0, 1]),
    ("r", SIDES, [None, 1]), ("x", SIDES, [None, 0]), ("x", HITS, [None, 1]),
    ("xxx", THREE, [3, 0]), ("k", KNEES, [None]),
]  # fmt: skip

#: Entries that come back with what is accepted.
BAD: list[tuple[str, Measure]] = [
    ("", COUNT), ("4o", COUNT), ("-3", COUNT), ("−3", COUNT), ("900", COUNT), ("61", COUNT),
    ("12.5", COUNT), ("12½", COUNT), ("4 2", COUNT), ("1e3", COUNT), ("٤٢", COUNT), ("4²", COUNT),
    ("~", COUNT), ("a~", COUNT), ("twelve", COUNT), ("9" * 200, COUNT), ("1,25", MANY),
    ("12,50", MANY), ("42 cm", COUNT), ("42/60", COUNT),
    ("1:75", HOLD), ("1:60", HOLD), ("1 min 75 s", HOLD), ("1m60", HOLD), ("1'75\"", HOLD),
    ("1.5 min 20 s", HOLD), ("1½ min 20 s", HOLD), ("16:00", HOLD), ("abc", HOLD), ("1.05.3", HOLD),
    # A stroke between two numbers: two tries, so many of so many, a date.
    ("12/13", HOLD), ("3/5", HOLD), ("5/4", HOLD), ("12 2/5", HOLD),
    ("9/10", SPRINT), ("12/13", LAPS), ("5/4 laps", LAPS), ("½", STAGED), ("½", COUNT),
    # "33 1/2" without its blank is no 165.5.
    ("331/2", LONG_JUMP), ("331/2in", LONG_JUMP), ("331/2", IN_INCHES), ("31/2", WEIGHT),
    ("41/2 st", WEIGHT), ("4' 21/2\"", LONG_JUMP), ("71/2", LAPS),
    ("9:058", MILE), ("1:005", HOLD),
    ("5 cm", HOLD), ("1½", SPRINT), ("--5", HOLD), ("1.9", SPRINT), ("21", SPRINT),
    ("3:30", MILE), ("9:58 9:40", MILE), ("10+5m", MILE), ("1609.344m run", MILE), ("61:00", MILE),
    ("1:00 2:20 4:55 7:30 9:58", MILE), ("2:20 4:55 7:30 12:75", MILE),
    ("127kg", LONG_JUMP), ("-5", LONG_JUMP), ("12 7", LONG_JUMP), ("9m", LONG_JUMP),
    ("4ft 12in", LONG_JUMP), ("4'13\"", LONG_JUMP), ("4.5ft 3in", LONG_JUMP),
    ("1.5m 20cm", LONG_JUMP), ("1m 120cm", LONG_JUMP), ("1m127", LONG_JUMP), ("33/0", LONG_JUMP),
    ("4' 2 3/2\"", LONG_JUMP), ("127s", LONG_JUMP), ("5m", LONG_JUMP), ("--", LONG_JUMP),
    ("12cm3", LONG_JUMP), ("33 1/4", LONG_JUMP), ("1,27,5m", LONG_JUMP),
    ("171 142", REACH), ("142 171 180", REACH), ("2m 4m", REACH), ("142 /", REACH),
    ("14 17", REACH), ("142 up 171", REACH),
    ("+1", WALL), ("--5", BOX), ("-60", BOX), ("five", BOX), ("-5 past", BOX), ("+", BOX),
    ("y", SIDES), ("1", SIDES), ("L y", SIDES), ("L y L n", SIDES), ("maybe no", SIDES),
    ("L ✓✗ R y", SIDES), ("L✓✗", SIDES), ("y n y", SIDES), ("1/2", SIDES), ("L y n R", SIDES),
    ("11", HITS), ("11/10", HITS), ("7/12", HITS), ("xox", HITS), ("7.5", HITS), ("✓xo", THREE),
    ("✗xo", THREE), ("x-x", HITS),
    ("1.8", STAGED), ("0.3", STAGED), ("22.1", STAGED), ("4", STAGED), ("46", STAGED),
    ("7+48m", LAPS), ("7.5+12", LAPS), ("-1", LAPS), ("7 8", LAPS), ("7 lapses", LAPS),
    ("3001", TOTAL), ("c40+c40", TOTAL), ("50+-3", TOTAL), ("50+", TOTAL), ("50 60", TOTAL),
    ("7kg", WEIGHT), ("400lb", WEIGHT), ("31.5cm", WEIGHT), ("4st 14lb", WEIGHT),
    ("4.5st 3lb", WEIGHT), ("4½ st 3", WEIGHT), ("31.5kg 500g", WEIGHT), ("31 kg 1500 g", WEIGHT),
    ("22", PULSE), ("241", PULSE), ("22/12", PULSE), ("60/10", PULSE), ("22x7", PULSE),
    ("132 bps", PULSE),
]  # fmt: skip
