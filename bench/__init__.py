"""Benchmarks. Each figure is one JSON line; ratios are taken within one run."""
