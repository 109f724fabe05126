"""Built files: named by their content, so kept for ever; sent compressed as they were built."""

import mimetypes
from pathlib import Path

from starlette.datastructures import Headers
from starlette.responses import FileResponse, Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

ENCODINGS = (("br", ".br"), ("gzip", ".gz"))


class Assets(StaticFiles):
    async def get_response(self, path: str, scope: Scope) -> Response:
        response = self._compressed(path, scope) or await super().get_response(path, scope)
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        response.headers["Vary"] = "Accept-Encoding"
        return response

    def _compressed(self, path: str, scope: Scope) -> Response | None:
        """The file as it was compressed beforehand, where the browser takes that."""
        accepted = Headers(scope=scope).get("accept-encoding", "")
        for encoding, suffix in ENCODINGS:
            if encoding not in accepted:
                continue
            found, stat = self.lookup_path(path + suffix)
            if stat is not None:
                kind = mimetypes.guess_type(path)[0] or "application/octet-stream"
                headers = {"Content-Encoding": encoding}
                return FileResponse(Path(found), headers=headers, media_type=kind)
        return None
