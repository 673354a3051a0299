"""How thoroughly properties are tried: `MURVEL_TESTS` names one of the profiles below."""

import os

from hypothesis import HealthCheck, settings

_PROFILES = {"quick": 25, "thorough": 400, "nightly": 5000}

for name, examples in _PROFILES.items():
    settings.register_profile(
        name,
        max_examples=examples,
        deadline=None,
        print_blob=True,
        suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.filter_too_much],
    )
settings.load_profile(os.environ.get("MURVEL_TESTS", "quick"))
