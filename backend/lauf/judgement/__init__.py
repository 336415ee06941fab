"""From stored rows to judged scores: one pipeline, used by every page, ledger, file and report.
No pages; no writes but of what is asked about a score."""
