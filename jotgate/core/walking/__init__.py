"""Through an edition: prefill, pages, finishes."""
