"""The rules of brands and marks as plain functions; pages and JSON views call them alike."""
