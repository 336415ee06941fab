"""The same demo as the browser's tests have."""

from tests.browser.conftest import demo_template

__all__ = ["demo_template"]
