"""Loops that are sure to look at something, and which tests could pass without: read from their text.

A test asserts surely where an assertion stands outside every loop, branch and nested function, or inside a loop over
something that cannot be empty: a literal, a constant, a range, or what ``every`` counts.
"""

import ast
from collections.abc import Iterable, Iterator, Mapping
from typing import TypeVar

PASSED_ON = ("enumerate", "zip", "reversed", "sorted", "list", "tuple", "product", "combinations", "items", "values",
             "keys", "pairwise", "permutations")  # fmt: skip

FILLED = ("range", "linspace", "geomspace", "logspace", "arange", "ndindex")

Functions = Mapping[str, ast.FunctionDef]
Thing = TypeVar("Thing")


def every(things: Iterable[Thing], at_least: int = 1) -> Iterator[Thing]:
    """Each of the things a test looks at; fails where there are fewer: what looks at nothing proves nothing."""
    seen = 0
    for each in things:
        seen += 1
        yield each
    if seen < at_least:
        raise AssertionError(f"{seen} things were looked at, not even {at_least}")


def unsure(text: str, inherited: Functions | None = None) -> list[tuple[str, int]]:
    """Tests of a module, each with its line, that would pass if what they loop over were empty."""
    tree = ast.parse(text)
    free = {each.name: each for each in tree.body if isinstance(each, ast.FunctionDef)}
    classes = [each for each in tree.body if isinstance(each, ast.ClassDef)]
    methods = {name: each for one in classes for name, each in methods_of(one).items()}
    known = {**(inherited or {}), **free, **methods}
    return [
        (f"{one.name}.{name}", test.lineno)
        for one in classes
        for name, test in methods_of(one).items()
        if name.startswith("test_") and not asserts(test.body, test, {**known, **methods_of(one)}, ())
    ]


def methods_of(one: ast.ClassDef) -> dict[str, ast.FunctionDef]:
    """Methods of a class by their names."""
    return {each.name: each for each in one.body if isinstance(each, ast.FunctionDef)}


def asserts(body: Iterable[ast.stmt], inside: ast.FunctionDef, known: Functions, above: tuple[str, ...]) -> bool:
    """Whether something is asserted whatever the data are."""
    return any(_asserts(each, inside, known, above) for each in body)


def _asserts(each: ast.stmt, inside: ast.FunctionDef, known: Functions, above: tuple[str, ...]) -> bool:
    def inner(body: Iterable[ast.stmt]) -> bool:
        return asserts(body, inside, known, above)

    match each:
        case ast.For():
            return (_is_filled(each.iter, inside) and inner(each.body)) or _calls(each.iter, known, above)
        case ast.If():
            return bool(each.orelse) and inner(each.body) and inner(each.orelse)
        case ast.With():
            return any(_calls(item.context_expr, known, above) for item in each.items) or inner(each.body)
        case ast.Try():
            return inner(each.body) or inner(each.finalbody)
        case ast.While() | ast.FunctionDef() | ast.ClassDef():
            return False
    return _calls(each, known, above)


def _calls(tree: ast.AST, known: Functions, above: tuple[str, ...]) -> bool:
    """Whether an assertion is called here, or a helper that surely asserts."""
    calls = (each.func for each in ast.walk(tree) if isinstance(each, ast.Call))
    for name in (each.attr if isinstance(each, ast.Attribute) else getattr(each, "id", "") for each in calls):
        if name.startswith(("assert", "fail")):
            return True
        helper = known.get(name) if name not in above else None
        if helper is not None and asserts(helper.body, helper, known, (*above, name)):
            return True
    return False


def _is_filled(things: ast.expr, inside: ast.FunctionDef) -> bool:
    """Whether a loop over this is run through at least once."""
    match things:
        case ast.Tuple() | ast.List() | ast.Set():
            return any(_is_filled(each.value, inside) if isinstance(each, ast.Starred) else True
                       for each in things.elts)  # fmt: skip
        case ast.Dict() | ast.Constant():
            return True
        case ast.BinOp():
            return _is_filled(things.left, inside) or _is_filled(things.right, inside)
        case ast.Name() if things.id.isupper():
            return True
        case ast.Attribute() if things.attr.isupper():
            return True
        case ast.Name():
            given = [
                each
                for each in ast.walk(inside)
                if isinstance(each, ast.Assign)
                and any(isinstance(target, ast.Name) and target.id == things.id for target in each.targets)
            ]
            return any(_is_filled(each.value, inside) for each in given)  # fmt: skip
        case ast.Call(func=ast.Name(id=name)) | ast.Call(func=ast.Attribute(attr=name)):
            if name.startswith("every") or name in FILLED:
                return True
            args = things.args or ([things.func.value] if isinstance(things.func, ast.Attribute) else [])
            strict = any(each.arg == "strict" for each in things.keywords)
            picked = all if name in ("zip", "product") and not strict else any
            return name in PASSED_ON and bool(args) and picked(_is_filled(each, inside) for each in args)
        case ast.ListComp() | ast.GeneratorExp() | ast.SetComp() | ast.DictComp():
            return all(not each.ifs and _is_filled(each.iter, inside) for each in things.generators)
    return False
