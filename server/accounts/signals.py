"""What other rooms may wait for: they know the accounts, the accounts do not know them."""

from __future__ import annotations

from django.dispatch import Signal

# Sent with `user`, within the transaction that creates the person.
signed_up = Signal()

# Sent with `user`, within the transaction that deletes the person: what must go before the person does, goes.
leaving = Signal()
