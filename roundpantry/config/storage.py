"""Static files under names that hold their content, in the imports of our scripts too."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from whitenoise.storage import CompressedManifestStaticFilesStorage

AS_THEY_ARE = "django_htmx/"  # shipped by the library, whose comments look like imports


class HashedStaticFiles(CompressedManifestStaticFilesStorage):
    """As WhiteNoise's; a script imports another by its hashed name, so no old one stays cached."""

    support_js_module_import_aggregation = True

    def url_converter(
        self, name: str, hashed_files: dict[str, str], template: Any = None
    ) -> Callable[[re.Match[str]], str]:
        """Put hashed names into our own files alone."""
        if name.startswith(AS_THEY_ARE):
            return lambda found: found[0]
        converter: Callable[[re.Match[str]], str] = super().url_converter(
            name, hashed_files, template
        )
        return converter
