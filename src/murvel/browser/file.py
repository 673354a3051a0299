"""The file that a browser was given for a page, before scripts changed anything."""

from __future__ import annotations

import base64

from murvel.browser.errors import BrowserError
from murvel.browser.tab import Tab


async def file_of(tab: Tab) -> str:
    """Return the markup that a tab's page came as; empty where the browser does not keep it."""
    try:
        frame = (await tab.send("Page.getResourceTree"))["frameTree"]["frame"]
        given = {"frameId": frame["id"], "url": frame["url"]}
        content = await tab.send("Page.getResourceContent", given)
    except BrowserError:
        return ""
    text: str = content["content"]
    return base64.b64decode(text).decode("utf-8", "replace") if content["base64Encoded"] else text
