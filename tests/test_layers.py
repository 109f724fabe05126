"""What the core may stand on; who may import whom inside is in pyproject.toml."""

import sys

import grimp

PURE = {
    "babel",
    "defusedxml",
    "email_validator",
    "markdown_it",
    "nh3",
    "phonenumbers",
    "pycountry",
    "pydantic",
    "orjson",
    "pysat",
    "python_calamine",
    "re2",
    "scipy",
    "segno",
    "xlsxwriter",
    "zxcvbn",
}
"""Libraries that compute and reach for nothing outside."""


def test_the_core_stands_on_libraries_that_only_compute() -> None:
    graph = grimp.build_graph("jotgate", include_external_packages=True)
    used = {
        name.partition(".")[0]
        for module in graph.modules
        if module.partition(".")[2].startswith("core")
        for name in graph.find_modules_directly_imported_by(module)
    }
    assert used - set(sys.stdlib_module_names) - {"jotgate"} <= PURE
    assert "pydantic" in used
