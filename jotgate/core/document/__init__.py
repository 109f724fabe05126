"""A questionnaire as a document: what it has, its drafts, its editions' differences."""
