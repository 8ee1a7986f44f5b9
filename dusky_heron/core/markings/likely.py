"""How likely a reading is: no such part has the value or the volts that it says."""

from dusky_heron.core.markings.model import Marking

# What parts of a kind are made in, farads and volts; wider than any list of parts, so that only nonsense lies outside.
X_F, Y_F = (100e-12, 50e-6), (1e-12, 1e-6)
MOTOR_F = (0.2e-6, 2000e-6)
CLASS_V = (50.0, 1000.0)
MAINS_AC_F = 3000e-6  # above it nothing stands on alternating volts
LEAST_FILM_V = 16.0
LARGEST_J = 20_000.0  # one part that holds more is a bank
# Volts that parts are rated for; others are printed too, and seldom.
USUAL_V = frozenset({
    2.5, 4, 6.3, 7.5, 10, 16, 25, 35, 40, 50, 63, 75, 80, 100, 110, 125, 150, 160, 180, 200, 220, 230, 240, 250, 275, 300, 305,
    310, 315, 330, 350, 360, 370, 375, 380, 385, 400, 415, 420, 425, 440, 450, 460, 470, 475, 480, 500, 525, 550, 600, 630, 660,
    690, 700, 750, 760, 800, 850, 875, 900, 1000, 1100, 1200, 1250, 1300, 1500, 1600, 1700, 2000, 2100, 2200, 2300, 2500, 3000,
    4000, 5000, 6000, 6300, 8000, 10000,
})  # fmt: skip
UNUSUAL_V = 1.5
NO_SUCH_PART = 2.5
ODD = 1.0


def cost(marking: Marking) -> float:
    """What it costs that no such part is made.

    :param marking: a reading
    :returns: 0 for a part as there are many, more for one that there is not
    :source: ranges of the parts of each kind, wider than any catalogue's
    """
    total = marking.capacitance_f
    spent = 0.0
    for section in marking.sections:
        if section.classes:
            low, high = Y_F if section.is_y else X_F
            spent += 0.0 if low <= section.capacitance_f <= high else NO_SUCH_PART
    spent += sum(0.0 if c.rated_ac_v is None or CLASS_V[0] <= c.rated_ac_v <= CLASS_V[1] else NO_SUCH_PART for c in marking.classes)
    if marking.duty and not marking.classes and not MOTOR_F[0] <= total <= MOTOR_F[1]:
        spent += NO_SUCH_PART
    volts = [v for v in (marking.rated_ac_v, marking.rated_dc_v) if v]
    if marking.surge_v and volts and marking.surge_v < max(volts):
        spent += 2 * NO_SUCH_PART
    if marking.rated_ac_v and total > MAINS_AC_F:
        spent += NO_SUCH_PART
    if marking.rated_ac_v and marking.rated_ac_v < LEAST_FILM_V:
        spent += NO_SUCH_PART
    if volts and total < 1e-6 and max(volts) < LEAST_FILM_V / 4:
        spent += NO_SUCH_PART
    spent += sum(UNUSUAL_V for v in volts if v not in USUAL_V)
    if volts and 0.5 * total * max(volts) ** 2 > LARGEST_J:
        spent += ODD
    if marking.rated_ac_v and total < 10e-12:
        spent += ODD
    return spent
