"""Files read back by other libraries than wrote them: svgelements for SVG, PDFium for the outlines of a PDF and its
content as qpdf parses it for their paints, Pillow for pictures, ezdxf's audit and entities for DXF.

What is found is told in millimetres and as plain values; nothing of the writers is used.
"""

from kagami.exchange.delivery.reading_back.found import Found, Unreadable
from kagami.exchange.delivery.reading_back.of_pdf import pdf_picture
from kagami.exchange.delivery.reading_back.reading import read_back

__all__ = ["Found", "Unreadable", "pdf_picture", "read_back"]
