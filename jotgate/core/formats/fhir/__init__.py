"""Questionnaires in and out as HL7 FHIR Questionnaire, R4 (also valid as R4B)."""

from jotgate.core.formats.fhir.out import to_fhir
from jotgate.core.formats.fhir.read import from_fhir

__all__ = ["from_fhir", "to_fhir"]
