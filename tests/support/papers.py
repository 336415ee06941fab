"""What stands on a printed page, as PDFium reads it: the reader of the browsers that open them."""

from __future__ import annotations

import pypdfium2


def pages_of(pdf: bytes) -> list[str]:
    """The text of each page, its lines and gaps made one blank each."""
    with pypdfium2.PdfDocument(pdf) as read:
        return [" ".join(page.get_textpage().get_text_range().split()) for page in read]
