"""How many rows an insert brought is asked of PostgreSQL: SQLAlchemy does not say (-1)."""

import ast

from jotgate.settings import ROOT

INSERTS = {"insert", "upsert"}


def test_no_insert_is_counted_by_its_cursor() -> None:
    counted, wrong = 0, []
    for file in sorted((ROOT / "jotgate" / "store").rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text())):
            if isinstance(node, ast.AsyncFunctionDef):
                counted += 1
                wrong += [f"{file.name}: {node.name}" for _ in _inserts_counted(node)]
    assert counted > 300
    assert not wrong


def _inserts_counted(function: ast.AsyncFunctionDef) -> list[ast.Attribute]:
    """Where `rowcount` is asked of a statement that begins with an insert, by the names that
    statements have in the function."""
    names = {
        target.id
        for node in ast.walk(function)
        if isinstance(node, ast.Assign) and _calls(node.value) & INSERTS
        for target in node.targets
        if isinstance(target, ast.Name)
    }
    return [
        node
        for node in ast.walk(function)
        if isinstance(node, ast.Attribute)
        and node.attr == "rowcount"
        and (_calls(node.value) & INSERTS or _names(node.value) & names)
    ]


def _calls(node: ast.AST) -> set[str]:
    found = [one.func for one in ast.walk(node) if isinstance(one, ast.Call)]
    return {one.id for one in found if isinstance(one, ast.Name)}


def _names(node: ast.AST) -> set[str]:
    return {one.id for one in ast.walk(node) if isinstance(one, ast.Name)}
