"""Entries know their workshop, and each of their words is kept behind it.

Left out of the words are the names of fields, ids (RFC 9562) and digests: nobody looks for those, and each is another word.
Strict: an index made where its rows were just written sees those before as well, which had no workshop.
What a tsvector takes is 1 MB (PostgreSQL, Limitations of text search): 4 000 words of 48 letters of 4 bytes, each behind 9 signs.
"""

import django.contrib.postgres.indexes
from django.db import migrations, models

from dusky_heron.record.models import WordsOf

NEITHER = r'"[a-z_]+":|[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}|[0-9a-f]{24,}'
WORDS = f"""
    CREATE FUNCTION entry_words(workshop uuid, said text) RETURNS tsvector LANGUAGE sql IMMUTABLE STRICT AS $$
        SELECT coalesce(array_to_tsvector(array_agg(DISTINCT left(workshop::text, 8) || ':' || left(lexeme, 48))), ''::tsvector)
        FROM (
            SELECT lexeme FROM unnest(to_tsvector('pg_catalog.simple'::regconfig, regexp_replace(said, '{NEITHER}', ' ', 'g')))
            LIMIT 4000
        ) AS words
    $$
"""
OWN = "UPDATE record_entry SET workshop_id = record_chain.workshop_id FROM record_chain WHERE record_chain.id = chain_id"


class Migration(migrations.Migration):

    dependencies = [
        ("record", "0005_where_writes_stood"),
    ]

    operations = [
        migrations.RemoveIndex(model_name="entry", name="entry_words"),
        migrations.AddField(model_name="entry", name="workshop_id", field=models.UUIDField(null=True)),
        migrations.RunSQL(OWN, migrations.RunSQL.noop),
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AlterField(model_name="entry", name="workshop_id", field=models.UUIDField()),
        migrations.RunSQL(WORDS, "DROP FUNCTION entry_words"),
        migrations.AddIndex(
            model_name="entry",
            index=django.contrib.postgres.indexes.GinIndex(WordsOf(), name="words_of_entries"),
        ),
    ]
