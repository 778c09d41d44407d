"""Fonts that people bring: taken to pieces and put together anew within limits before anything else reads them."""
