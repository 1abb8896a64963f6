"""Owners, invitations, sign-ins; the first member of each workshop owns it."""

from typing import Any

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def first_member_owns(apps: Any, schema_editor: Any) -> None:
    """Of each workshop there is."""
    for workshop in apps.get_model("accounts", "Workshop").objects.all():
        workshop.owner = workshop.people.order_by("pk").first()
        workshop.save()


class Migration(migrations.Migration):

    dependencies = [
        ('accounts', '0001_initial'),
    ]

    operations = [
        migrations.AddField(
            model_name='workshop',
            name='owner',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL),
        ),
        migrations.RunPython(first_member_owns, migrations.RunPython.noop),
        migrations.CreateModel(
            name='Invitation',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('secret_digest', models.CharField(max_length=64, unique=True)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('expires_at', models.DateTimeField()),
                ('made_by', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('used_by', models.OneToOneField(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='invitations', to='accounts.workshop')),
            ],
            options={
                'ordering': ['-id'],
            },
        ),
        migrations.CreateModel(
            name='SignIn',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('session_key', models.CharField(max_length=40, unique=True)),
                ('address', models.CharField(max_length=45)),
                ('browser', models.CharField(max_length=200)),
                ('began_at', models.DateTimeField(auto_now_add=True)),
                ('seen_at', models.DateTimeField(auto_now_add=True)),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='sign_ins', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-seen_at', '-id'],
            },
        ),
    ]
