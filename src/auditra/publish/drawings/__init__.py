"""Drawings for paper and page: faces, charts, chains. Each is made once, and printed as SVG or into a PDF."""
