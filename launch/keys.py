"""The secrets of one Bilge: made once, readable by its user alone."""

from __future__ import annotations

import json
import os
import secrets

from launch.paths import HOME

FILE_NAME = "secrets.json"


def own_secrets() -> dict[str, str]:
    """The key that signs and the demo's password; made where there are none.

    BILGE_SECRET_KEY in the environment goes before the kept one.
    """
    file = HOME / FILE_NAME
    if not file.exists():
        file.touch(mode=0o600)
        words = ("rail", "gate", "bell", "plate", "drain", "skirt", "gallery", "spanner")
        password = (
            "-".join(secrets.choice(words) for _ in range(3)) + f"-{secrets.randbelow(9000) + 1000}"
        )
        file.write_text(
            json.dumps({"secret_key": secrets.token_urlsafe(48), "demo_password": password})
        )
    kept = json.loads(file.read_text())
    return {
        "BILGE_SECRET_KEY": os.environ.get("BILGE_SECRET_KEY") or kept["secret_key"],
        "BILGE_DEMO_PASSWORD": kept["demo_password"],
    }
