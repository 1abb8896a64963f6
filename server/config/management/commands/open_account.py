"""Makes a sign-in, in a workshop that is there or a new one. Asks for the password."""

from __future__ import annotations

from argparse import ArgumentParser
from getpass import getpass
from typing import Any

from accounts.models import User
from accounts.services import open_account
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError


class Command(BaseCommand):
    """Make a sign-in."""

    help = "Make a user, in the workshop of that name or a new one."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The user's name and the workshop's."""
        parser.add_argument("username")
        parser.add_argument("workshop")

    def handle(self, *args: Any, username: str, workshop: str, **options: Any) -> None:
        """Do it."""
        user = User(username=username)
        try:
            user.clean_fields(exclude=["password", "workshop"])
            if User.objects.filter(username=username).exists():
                raise CommandError(f"There is a user {username} already; choose another name.")
            password = getpass(f"Password for {username}: ")
            if getpass("Once more: ") != password:
                raise CommandError("The two differ; nothing was made.")
            validate_password(password, user)
        except EOFError:
            words = "No password was typed, so nothing was made: run this where it can ask for one."
            raise CommandError(words) from None
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        made = open_account(username, password, workshop)
        others = made.workshop.people.filter(is_active=True).exclude(pk=made.pk).count()
        how = f"joins {workshop}, with {others} others" if others else f"owns {workshop}"
        self.stdout.write(f"{username} can sign in and {how}.")
