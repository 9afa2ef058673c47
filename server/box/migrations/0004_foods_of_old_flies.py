"""Flies stored before they said what they pass for: told from the words of what they imitate."""

from django.db import migrations

FOODS = {
    "damselfly nymph": "damsel-nymph", "midge pupa": "midge-pupa", "midge larva": "midge-larva", "shrimp": "shrimp",
    "leech": "leech", "dragonfly nymph": "dragon-nymph", "fry": "fry",
}


def tell_foods(apps, schema_editor):
    flies = apps.get_model("box", "Fly").objects.filter(foods=[])
    for words, key in FOODS.items():
        flies.filter(imitates=words).update(foods=[key])
    flies.filter(imitates="attractor").update(style="attractor")


class Migration(migrations.Migration):
    dependencies = [("box", "0003_rods_floats_spools")]
    operations = [migrations.RunPython(tell_foods, migrations.RunPython.noop)]
