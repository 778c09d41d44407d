"""The rules of accounts and studios as plain functions."""
