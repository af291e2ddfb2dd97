"""A drawing shown: scene paths for the browser, SVG and PNG for the sheet."""
