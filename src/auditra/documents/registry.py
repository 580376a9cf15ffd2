"""The formats by name, each with its schema."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from auditra.documents.cable import CableFile
from auditra.documents.claim_sheet import claims_schema
from auditra.documents.comparison import comparison_schema
from auditra.documents.decode_edid import EdidFile
from auditra.documents.decode_pd import PowerFile
from auditra.documents.decode_usb import UsbFile
from auditra.documents.facts import fact_schema
from auditra.documents.instrument_file import instrument_schema
from auditra.documents.judgement import judgement_schema
from auditra.documents.probe import ProbeFile
from auditra.documents.profile_file import profile_schema
from auditra.documents.rig_file import rig_schema
from auditra.documents.table_use import TableUseFile

SCHEMAS: dict[str, Callable[[], dict[str, Any]]] = {
    "facts": fact_schema,
    "claims": claims_schema,
    "rig": rig_schema,
    "instrument": instrument_schema,
    "profile": profile_schema,
    "judgement": judgement_schema,
    "comparison": comparison_schema,
    "probe": ProbeFile.model_json_schema,
    "decode-usb": UsbFile.model_json_schema,
    "decode-edid": EdidFile.model_json_schema,
    "decode-pd": PowerFile.model_json_schema,
    "decode-cable": CableFile.model_json_schema,
    "table-use": TableUseFile.model_json_schema,
}
