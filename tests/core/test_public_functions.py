"""House rule of the core: each public function says its units, range, errors and source, and its examples hold."""

import doctest
import importlib
import inspect
import pkgutil
import subprocess
import sys
import unittest
from collections.abc import Iterator
from types import FunctionType

import dusky_heron.core

# The functions other code and acceptance checks call; their docstrings are the reference.
CONTRACT = {
    "dusky_heron.core.markings": ["read_marking"],
    "dusky_heron.core.discharge.energy": ["stored_energy", "touch_limit", "es2_limit", "classify"],
    "dusky_heron.core.discharge.planning": [
        "planning_voltage",
        "plan_charge",
        "measured_high",
        "first_voltage",
        "continuous_voltage",
    ],
    "dusky_heron.core.discharge": ["time_to", "string_after_short"],
    "dusky_heron.core.discharge.falling": ["voltage_after", "target_times"],
    "dusky_heron.core.discharge.limits": ["limits_table", "working_limit", "limits_of"],
    "dusky_heron.core.discharge.tools": ["pulse_limit", "judge_tool", "resistance_of", "worst_shares"],
    "dusky_heron.core.discharge.search": ["rank_tools", "recommended", "fastest", "beyond_tools"],
    "dusky_heron.core.discharge.banks": ["string_shares", "discharge_points"],
    "dusky_heron.core.discharge.bleeders": ["bled", "split", "design_bleeder", "e24_below", "check_limits", "counted_resistance"],
    "dusky_heron.core.discharge.rebound": ["dielectric_of", "expected_rebound", "crept_back", "proof_holds"],
    "dusky_heron.core.discharge.pins": ["plug_pins", "across_line", "behind_plug"],
    "dusky_heron.core.discharge.other_tools": ["lamp", "load_left_on", "blade"],
    "dusky_heron.core.discharge.proving": [
        "proof_pairs",
        "meter_refusals",
        "hides_charge",
        "check_proof",
        "check_first_stage",
        "check_source",
        "left_on",
        "not_settled",
    ],
    "dusky_heron.core.discharge.decay": ["fit"],
    "dusky_heron.core.discharge.events": ["find_event", "held_up"],
    "dusky_heron.core.metering.volts": ["read_volts"],
    "dusky_heron.core.discharge.touch_current": ["touch_current", "touch_limits", "to_chassis", "on_both_sides"],
    "dusky_heron.core.metering": [
        "resolution",
        "interval",
        "to_series",
        "to_parallel",
        "without_parallel_resistor",
        "find_common",
    ],
    "dusky_heron.core.metering.accuracy": ["read_accuracies", "read_value", "last_digit"],
    "dusky_heron.core.metering.corrections": ["alone", "loss_of_resistor"],
    "dusky_heron.core.metering.in_service": ["from_clamp", "from_idle", "idle_share"],
    "dusky_heron.core.circuit.dropper": [
        "steady_state",
        "switch_load",
        "switch_on",
        "infer_capacitance",
        "infer_from_current",
        "compare",
        "available_current",
        "needed_capacitance",
        "symptom_sweep",
        "state_load",
        "holds",
        "give_command",
        "too_big",
        "rank_faults",
        "with_needs",
    ],
    "dusky_heron.core.circuit.ranking": ["rank"],
    "dusky_heron.core.circuit.hum": ["rank_hum"],
    "dusky_heron.core.circuit.bulk": ["bulk_state", "needed_bulk", "bulk_courses"],
    "dusky_heron.core.discharge.series_string": ["share_string"],
    "dusky_heron.core.ageing.reforming": ["forming_resistor", "plan_forming", "judge_forming"],
    "dusky_heron.core.circuit.supply_walk": ["walk_symptoms", "walk_supply"],
    "dusky_heron.core.circuit.typed_loads": ["read_loads"],
    "dusky_heron.core.circuit.rectifier": ["steady_state", "switch_on", "output_course", "surge_course"],
    "dusky_heron.core.circuit.growing": ["rectifiers", "held_against", "growth", "source_resistance"],
    "dusky_heron.core.circuit.netlist": [
        "dropper_netlist",
        "dropper_inrush_netlist",
        "reservoir_netlist",
        "reservoir_surge_netlist",
    ],
    "dusky_heron.core.verdict": ["judge"],
    "dusky_heron.core.verdict.registry": ["verdict_limits", "read_limit_value"],
    "dusky_heron.core.verdict.dropper_balance": ["available_current"],
    "dusky_heron.core.verdict.two_core": ["ways"],
    "dusky_heron.core.ageing.life": ["electrolytic_life", "years_left", "failure_within", "compare_batch"],
    "dusky_heron.core.schools": ["schools", "default_schools", "find_school"],
    "dusky_heron.core.wiring": ["read_found", "read_kept", "to_put_back"],
    "dusky_heron.core.selection": ["need_of", "rank"],
    "dusky_heron.core.selection.safety_class": ["may_replace", "acceptable_classes"],
    "dusky_heron.core.quantities": ["parse_quantity"],
}


def modules() -> Iterator[str]:
    yield from (info.name for info in pkgutil.walk_packages(dusky_heron.core.__path__, "dusky_heron.core."))


class Docstrings(unittest.TestCase):
    """What a reader finds without opening the code."""

    def test_contract_functions_are_documented_whole(self) -> None:
        for module, names in CONTRACT.items():
            for name in names:
                with self.subTest(f"{module}.{name}"):
                    function = getattr(importlib.import_module(module), name)
                    text = inspect.getdoc(function) or ""
                    for parameter in inspect.signature(function).parameters:
                        if parameter != "field":
                            self.assertIn(f":param {parameter}:", text)
                    self.assertIn(":returns:", text)
                    self.assertIn(":source:", text)

    def test_every_public_function_says_what_it_is(self) -> None:
        for name in modules():
            module = importlib.import_module(name)
            for key, thing in vars(module).items():
                if isinstance(thing, FunctionType) and thing.__module__ == name and not key.startswith("_"):
                    self.assertTrue(thing.__doc__, f"{name}.{key}")

    def test_examples_hold(self) -> None:
        ran = 0
        for name in modules():
            result = doctest.testmod(importlib.import_module(name))
            self.assertEqual(result.failed, 0, name)
            ran += result.attempted
        self.assertGreaterEqual(ran, 6)


class Alone(unittest.TestCase):
    """The core needs neither settings nor a database."""

    def test_it_imports_without_django(self) -> None:
        code = "import sys, dusky_heron.core.selection, dusky_heron.core.verdict; print([m for m in sys.modules if 'django' in m])"
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
        self.assertEqual(done.stdout.strip(), "[]")
