-- Made by echo-rule from rules/kiln.rules.ts, rules/potter.rules.ts, rules/firing.rules.ts. Change the rules, not this file: it is made again.
-- Digest: sha256-5771de9a50b8eaf5caffadaa62f3bda1a802e4ac000250babc215d629b2e25c8

-- Tables of these names that are there already must be these very ones.
DO $guard$
DECLARE differences text;
BEGIN
  WITH
    declared_table (table_name, mark) AS (VALUES ('kilns', 'echo-rule e27267ae9ba6b0b9'), ('potters', 'echo-rule e2b1706c7a665871'), ('firings', 'echo-rule e81f10437e54f7fa'), ('firings_helpers', 'echo-rule 157747668dec1061')),
    declared_column (table_name, column_name, type, required) AS (VALUES
      ('kilns', 'code', 'text', 'NOT NULL'),
      ('kilns', 'name', 'text', 'NOT NULL'),
      ('kilns', 'hottest', 'smallint', 'NOT NULL'),
      ('potters', 'handle', 'text', 'NOT NULL'),
      ('potters', 'name', 'text', 'NOT NULL'),
      ('potters', 'phone', 'text', 'NULL'),
      ('potters', 'email', 'text', 'NULL'),
      ('potters', 'member_since', 'date', 'NOT NULL'),
      ('potters', 'inducted', 'boolean', 'NOT NULL'),
      ('firings', 'tag', 'text', 'NOT NULL'),
      ('firings', 'kiln', 'text', 'NOT NULL'),
      ('firings', 'potter', 'text', 'NOT NULL'),
      ('firings', 'title', 'text', 'NOT NULL'),
      ('firings', 'pieces', 'smallint', 'NOT NULL'),
      ('firings', 'peak', 'smallint', 'NOT NULL'),
      ('firings', 'glaze', 'text', 'NOT NULL'),
      ('firings', 'vented', 'boolean', 'NOT NULL'),
      ('firings', 'fee', 'numeric', 'NULL'),
      ('firings', 'load_on', 'date', 'NOT NULL'),
      ('firings', 'collect_on', 'date', 'NULL'),
      ('firings', 'shelf_bay', 'text', 'NULL'),
      ('firings', 'shelf_level', 'smallint', 'NULL'),
      ('firings', 'notes', 'text', 'NULL'),
      ('firings_helpers', 'firing_tag', 'text', 'NOT NULL'),
      ('firings_helpers', 'position', 'integer', 'NOT NULL'),
      ('firings_helpers', 'item', 'text', 'NOT NULL')),
    declared_constraint (table_name, name) AS (VALUES
      ('kilns', 'kiln_code_unique'),
      ('kilns', 'kiln_code_type'),
      ('kilns', 'kiln_code_canonical'),
      ('kilns', 'kiln_code_lines'),
      ('kilns', 'kiln_code_pattern'),
      ('kilns', 'kiln_name_type'),
      ('kilns', 'kiln_name_canonical'),
      ('kilns', 'kiln_name_lines'),
      ('kilns', 'kiln_name_min_length'),
      ('kilns', 'kiln_name_max_length'),
      ('kilns', 'kiln_hottest_min'),
      ('kilns', 'kiln_hottest_max'),
      ('potters', 'potter_handle_unique'),
      ('potters', 'potter_handle_type'),
      ('potters', 'potter_handle_canonical'),
      ('potters', 'potter_handle_lines'),
      ('potters', 'potter_handle_max_length'),
      ('potters', 'potter_handle_pattern'),
      ('potters', 'potter_name_type'),
      ('potters', 'potter_name_canonical'),
      ('potters', 'potter_name_lines'),
      ('potters', 'potter_name_min_length'),
      ('potters', 'potter_name_max_length'),
      ('potters', 'potter_phone_type'),
      ('potters', 'potter_phone_canonical'),
      ('potters', 'potter_phone_lines'),
      ('potters', 'potter_phone_pattern'),
      ('potters', 'potter_email_type'),
      ('potters', 'potter_email_canonical'),
      ('potters', 'potter_email_lines'),
      ('potters', 'potter_email_format'),
      ('potters', 'potter_email_max_length'),
      ('potters', 'potter_member_since_type'),
      ('potters', 'potter_member_since_min'),
      ('potters', 'potter_phone_taken_once'),
      ('potters', 'potter_email_taken_once'),
      ('firings', 'firing_tag_unique'),
      ('firings', 'firing_tag_type'),
      ('firings', 'firing_tag_canonical'),
      ('firings', 'firing_tag_lines'),
      ('firings', 'firing_tag_pattern'),
      ('firings', 'firing_kiln_type'),
      ('firings', 'firing_kiln_canonical'),
      ('firings', 'firing_kiln_lines'),
      ('firings', 'firing_kiln_pattern'),
      ('firings', 'firing_potter_type'),
      ('firings', 'firing_potter_canonical'),
      ('firings', 'firing_potter_lines'),
      ('firings', 'firing_potter_max_length'),
      ('firings', 'firing_potter_pattern'),
      ('firings', 'firing_title_type'),
      ('firings', 'firing_title_canonical'),
      ('firings', 'firing_title_lines'),
      ('firings', 'firing_title_min_length'),
      ('firings', 'firing_title_max_length'),
      ('firings', 'firing_pieces_min'),
      ('firings', 'firing_pieces_max'),
      ('firings', 'firing_peak_min'),
      ('firings', 'firing_peak_max'),
      ('firings', 'firing_glaze_enumeration'),
      ('firings', 'firing_fee_type'),
      ('firings', 'firing_fee_precision'),
      ('firings', 'firing_fee_scale'),
      ('firings', 'firing_fee_min'),
      ('firings', 'firing_fee_max'),
      ('firings', 'firing_load_on_type'),
      ('firings', 'firing_collect_on_type'),
      ('firings', 'firing_shelf_bay_required'),
      ('firings', 'firing_shelf_bay_type'),
      ('firings', 'firing_shelf_bay_canonical'),
      ('firings', 'firing_shelf_bay_lines'),
      ('firings', 'firing_shelf_bay_pattern'),
      ('firings', 'firing_shelf_level_required'),
      ('firings', 'firing_shelf_level_min'),
      ('firings', 'firing_shelf_level_max'),
      ('firings', 'firing_notes_type'),
      ('firings', 'firing_notes_canonical'),
      ('firings', 'firing_notes_max_length'),
      ('firings', 'firing_collect_after_loading'),
      ('firings', 'firing_lustre_needs_venting'),
      ('firings', 'firing_celadon_fired_hot'),
      ('firings', 'firing_kiln_reference'),
      ('firings', 'firing_potter_reference'),
      ('firings', 'firing_one_firing_per_day'),
      ('firings_helpers', 'firing_helpers_key'),
      ('firings_helpers', 'firing_helpers_owner'),
      ('firings_helpers', 'firing_helpers_place'),
      ('firings_helpers', 'firing_helpers_max_items'),
      ('firings_helpers', 'firing_helpers_item_type'),
      ('firings_helpers', 'firing_helpers_item_canonical'),
      ('firings_helpers', 'firing_helpers_item_lines'),
      ('firings_helpers', 'firing_helpers_item_max_length'),
      ('firings_helpers', 'firing_helpers_distinct')),
    here AS (SELECT table_name, mark, to_regclass(quote_ident(table_name)) AS oid FROM declared_table),
    there AS (SELECT table_name, mark, oid FROM here WHERE oid IS NOT NULL),
    found_column AS (
      SELECT table_name, attname::text AS column_name, format_type(atttypid, atttypmod) AS type,
        CASE WHEN attnotnull THEN 'NOT NULL' ELSE 'NULL' END AS required
      FROM there JOIN pg_attribute ON attrelid = oid AND attnum > 0 AND NOT attisdropped),
    difference (what) AS (
      SELECT table_name || '.' || coalesce(d.column_name, f.column_name) || ' is '
        || coalesce(f.type || ' ' || f.required, 'not there') || ', declared ' || coalesce(d.type || ' ' || d.required, 'not at all')
      FROM (SELECT d.* FROM declared_column d JOIN there USING (table_name)) d
      FULL JOIN found_column f USING (table_name, column_name)
      WHERE (d.type, d.required) IS DISTINCT FROM (f.type, f.required)
      UNION ALL
      SELECT table_name || ' has no constraint ' || d.name FROM there JOIN declared_constraint d USING (table_name)
      WHERE NOT EXISTS (SELECT FROM pg_constraint WHERE conrelid = there.oid AND conname = d.name)
      UNION ALL
      SELECT table_name || ' was made from other rules' FROM there
      WHERE strpos(coalesce(obj_description(oid, 'pg_class'), ''), mark) = 0)
  SELECT string_agg(what, '; ' ORDER BY what) INTO differences FROM difference;
  IF differences IS NOT NULL THEN
    RAISE EXCEPTION 'the tables that are there differ: %', differences
      USING HINT = 'Nothing was changed. Rename or drop them, or change them by hand to what is declared.';
  END IF;
END
$guard$;

CREATE TABLE IF NOT EXISTS kilns (
  code text COLLATE "C" NOT NULL,
  name text COLLATE "C" NOT NULL,
  hottest smallint NOT NULL,
  CONSTRAINT kiln_code_unique PRIMARY KEY (code),
  CONSTRAINT kiln_code_type CHECK (strpos(code, E'\ufffd') = 0),
  CONSTRAINT kiln_code_canonical CHECK (code = btrim(code, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND code <> ''),
  CONSTRAINT kiln_code_lines CHECK (code ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT kiln_code_pattern CHECK (code ~ '^(?:K[0-9]{2})$'),
  CONSTRAINT kiln_name_type CHECK (strpos(name, E'\ufffd') = 0),
  CONSTRAINT kiln_name_canonical CHECK (name = btrim(name, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND name <> ''),
  CONSTRAINT kiln_name_lines CHECK (name ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT kiln_name_min_length CHECK (char_length(name) >= 2),
  CONSTRAINT kiln_name_max_length CHECK (char_length(name) <= 40),
  CONSTRAINT kiln_hottest_min CHECK (hottest >= 900),
  CONSTRAINT kiln_hottest_max CHECK (hottest <= 1400)
);

COMMENT ON TABLE kilns IS 'Kiln (echo-rule e27267ae9ba6b0b9)';
COMMENT ON COLUMN kilns.code IS 'Kiln code';
COMMENT ON COLUMN kilns.name IS 'Name';
COMMENT ON COLUMN kilns.hottest IS 'Hottest firing (°C)';

CREATE TABLE IF NOT EXISTS potters (
  handle text COLLATE "C" NOT NULL,
  name text COLLATE "C" NOT NULL,
  phone text COLLATE "C",
  email text COLLATE "C",
  member_since date NOT NULL,
  inducted boolean NOT NULL,
  CONSTRAINT potter_handle_unique PRIMARY KEY (handle),
  CONSTRAINT potter_handle_type CHECK (strpos(handle, E'\ufffd') = 0),
  CONSTRAINT potter_handle_canonical CHECK (handle = btrim(handle, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND handle <> ''),
  CONSTRAINT potter_handle_lines CHECK (handle ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT potter_handle_max_length CHECK (char_length(handle) <= 20),
  CONSTRAINT potter_handle_pattern CHECK (handle ~ E'^(?:[a-z][0-9a-z]*(?:\\u002d[0-9a-z]+)*)$'),
  CONSTRAINT potter_name_type CHECK (strpos(name, E'\ufffd') = 0),
  CONSTRAINT potter_name_canonical CHECK (name = btrim(name, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND name <> ''),
  CONSTRAINT potter_name_lines CHECK (name ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT potter_name_min_length CHECK (char_length(name) >= 2),
  CONSTRAINT potter_name_max_length CHECK (char_length(name) <= 60),
  CONSTRAINT potter_phone_type CHECK (strpos(phone, E'\ufffd') = 0),
  CONSTRAINT potter_phone_canonical CHECK (phone = btrim(phone, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND phone <> ''),
  CONSTRAINT potter_phone_lines CHECK (phone ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT potter_phone_pattern CHECK (phone ~ E'^(?:\\u002b[0-9]{1,3}(?:\\u0020[0-9]{2,5}){2,4})$'),
  CONSTRAINT potter_email_type CHECK (strpos(email, E'\ufffd') = 0),
  CONSTRAINT potter_email_canonical CHECK (email = btrim(email, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND email <> '' AND email = lower(email)),
  CONSTRAINT potter_email_lines CHECK (email ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT potter_email_format CHECK (email ~ E'^(?:[\\u0021\\u0023-\\u0027\\u002a-\\u002b\\u002d-9\\u003d\\u003fA-Z\\u005e-\\u007e]{1,64}\\u0040[0-9A-Za-z](?:[\\u002d0-9A-Za-z]{0,61}[0-9A-Za-z])?(?:\\u002e[0-9A-Za-z](?:[\\u002d0-9A-Za-z]{0,61}[0-9A-Za-z])?)*)$'),
  CONSTRAINT potter_email_max_length CHECK (char_length(email) <= 254),
  CONSTRAINT potter_member_since_type CHECK (member_since BETWEEN '0001-01-01' AND '9999-12-31'),
  CONSTRAINT potter_member_since_min CHECK (member_since >= '2015-01-01'),
  CONSTRAINT potter_phone_taken_once UNIQUE (phone),
  CONSTRAINT potter_email_taken_once UNIQUE (email)
);

COMMENT ON TABLE potters IS 'Potter (echo-rule e2b1706c7a665871)';
COMMENT ON COLUMN potters.handle IS 'Short name';
COMMENT ON COLUMN potters.name IS 'Name';
COMMENT ON COLUMN potters.phone IS 'Phone';
COMMENT ON COLUMN potters.email IS 'Email';
COMMENT ON COLUMN potters.member_since IS 'Member since';
COMMENT ON COLUMN potters.inducted IS 'Has had the kiln induction';

CREATE TABLE IF NOT EXISTS firings (
  tag text COLLATE "C" NOT NULL,
  kiln text COLLATE "C" NOT NULL,
  potter text COLLATE "C" NOT NULL,
  title text COLLATE "C" NOT NULL,
  pieces smallint NOT NULL,
  peak smallint NOT NULL,
  glaze text COLLATE "C" NOT NULL,
  vented boolean NOT NULL,
  fee numeric,
  load_on date NOT NULL,
  collect_on date,
  shelf_bay text COLLATE "C",
  shelf_level smallint,
  notes text COLLATE "C",
  CONSTRAINT firing_tag_unique PRIMARY KEY (tag),
  CONSTRAINT firing_tag_type CHECK (strpos(tag, E'\ufffd') = 0),
  CONSTRAINT firing_tag_canonical CHECK (tag = btrim(tag, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND tag <> ''),
  CONSTRAINT firing_tag_lines CHECK (tag ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT firing_tag_pattern CHECK (tag ~ E'^(?:[A-Z]{2}\\u002d[0-9]{4})$'),
  CONSTRAINT firing_kiln_type CHECK (strpos(kiln, E'\ufffd') = 0),
  CONSTRAINT firing_kiln_canonical CHECK (kiln = btrim(kiln, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND kiln <> ''),
  CONSTRAINT firing_kiln_lines CHECK (kiln ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT firing_kiln_pattern CHECK (kiln ~ '^(?:K[0-9]{2})$'),
  CONSTRAINT firing_potter_type CHECK (strpos(potter, E'\ufffd') = 0),
  CONSTRAINT firing_potter_canonical CHECK (potter = btrim(potter, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND potter <> ''),
  CONSTRAINT firing_potter_lines CHECK (potter ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT firing_potter_max_length CHECK (char_length(potter) <= 20),
  CONSTRAINT firing_potter_pattern CHECK (potter ~ E'^(?:[a-z][0-9a-z]*(?:\\u002d[0-9a-z]+)*)$'),
  CONSTRAINT firing_title_type CHECK (strpos(title, E'\ufffd') = 0),
  CONSTRAINT firing_title_canonical CHECK (title = btrim(title, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND title <> ''),
  CONSTRAINT firing_title_lines CHECK (title ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT firing_title_min_length CHECK (char_length(title) >= 3),
  CONSTRAINT firing_title_max_length CHECK (char_length(title) <= 60),
  CONSTRAINT firing_pieces_min CHECK (pieces >= 1),
  CONSTRAINT firing_pieces_max CHECK (pieces <= 40),
  CONSTRAINT firing_peak_min CHECK (peak >= 600),
  CONSTRAINT firing_peak_max CHECK (peak <= 1320),
  CONSTRAINT firing_glaze_enumeration CHECK (glaze IN ('none', 'celadon', 'tenmoku', 'lustre')),
  CONSTRAINT firing_fee_type CHECK (fee > '-Infinity' AND fee < 'Infinity'),
  CONSTRAINT firing_fee_precision CHECK (fee < 1000 AND fee > -1000),
  CONSTRAINT firing_fee_scale CHECK ((CAST(fee AS numeric) % 0.01) = 0),
  CONSTRAINT firing_fee_min CHECK (fee >= 0),
  CONSTRAINT firing_fee_max CHECK (fee <= 500),
  CONSTRAINT firing_load_on_type CHECK (load_on BETWEEN '0001-01-01' AND '9999-12-31'),
  CONSTRAINT firing_collect_on_type CHECK (collect_on BETWEEN '0001-01-01' AND '9999-12-31'),
  CONSTRAINT firing_shelf_bay_required CHECK (shelf_bay IS NOT NULL OR (shelf_bay IS NULL AND shelf_level IS NULL)),
  CONSTRAINT firing_shelf_bay_type CHECK (strpos(shelf_bay, E'\ufffd') = 0),
  CONSTRAINT firing_shelf_bay_canonical CHECK (shelf_bay = btrim(shelf_bay, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND shelf_bay <> ''),
  CONSTRAINT firing_shelf_bay_lines CHECK (shelf_bay ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT firing_shelf_bay_pattern CHECK (shelf_bay ~ '^(?:[A-F][0-9]?)$'),
  CONSTRAINT firing_shelf_level_required CHECK (shelf_level IS NOT NULL OR (shelf_level IS NULL AND shelf_bay IS NULL)),
  CONSTRAINT firing_shelf_level_min CHECK (shelf_level >= 1),
  CONSTRAINT firing_shelf_level_max CHECK (shelf_level <= 6),
  CONSTRAINT firing_notes_type CHECK (strpos(notes, E'\ufffd') = 0),
  CONSTRAINT firing_notes_canonical CHECK (notes = btrim(notes, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND notes <> '' AND strpos(notes, E'\u000d') = 0),
  CONSTRAINT firing_notes_max_length CHECK (char_length(notes) <= 500),
  CONSTRAINT firing_collect_after_loading CHECK (collect_on > load_on),
  CONSTRAINT firing_lustre_needs_venting CHECK (NOT (glaze = 'lustre') OR vented = true),
  CONSTRAINT firing_celadon_fired_hot CHECK (NOT (glaze = 'celadon') OR peak >= 1200),
  CONSTRAINT firing_kiln_reference FOREIGN KEY (kiln) REFERENCES kilns (code) ON DELETE NO ACTION,
  CONSTRAINT firing_potter_reference FOREIGN KEY (potter) REFERENCES potters (handle) ON DELETE NO ACTION,
  CONSTRAINT firing_one_firing_per_day UNIQUE (kiln, load_on)
);

COMMENT ON TABLE firings IS 'Firing (echo-rule e81f10437e54f7fa)';
COMMENT ON COLUMN firings.tag IS 'Firing tag';
COMMENT ON COLUMN firings.kiln IS 'Kiln';
COMMENT ON COLUMN firings.potter IS 'Booked by';
COMMENT ON COLUMN firings.title IS 'What is fired';
COMMENT ON COLUMN firings.pieces IS 'Number of pieces';
COMMENT ON COLUMN firings.peak IS 'Peak temperature (°C)';
COMMENT ON COLUMN firings.glaze IS 'Glaze';
COMMENT ON COLUMN firings.vented IS 'Vent open';
COMMENT ON COLUMN firings.fee IS 'Fee paid';
COMMENT ON COLUMN firings.load_on IS 'Loading day';
COMMENT ON COLUMN firings.collect_on IS 'Collection day';
COMMENT ON COLUMN firings.shelf_bay IS 'Bay';
COMMENT ON COLUMN firings.shelf_level IS 'Level';
COMMENT ON COLUMN firings.notes IS 'Notes';

CREATE INDEX IF NOT EXISTS firing_by_potter ON firings (potter, load_on);

CREATE TABLE IF NOT EXISTS firings_helpers (
  firing_tag text COLLATE "C" NOT NULL,
  position integer NOT NULL,
  item text COLLATE "C" NOT NULL,
  CONSTRAINT firing_helpers_key PRIMARY KEY (firing_tag, position),
  CONSTRAINT firing_helpers_owner FOREIGN KEY (firing_tag) REFERENCES firings (tag) ON DELETE CASCADE ON UPDATE CASCADE,
  CONSTRAINT firing_helpers_place CHECK (position >= 1),
  CONSTRAINT firing_helpers_max_items CHECK (position <= 4),
  CONSTRAINT firing_helpers_item_type CHECK (strpos(item, E'\ufffd') = 0),
  CONSTRAINT firing_helpers_item_canonical CHECK (item = btrim(item, E'\u0009\u000a\u000b\u000c\u000d \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff') AND item <> ''),
  CONSTRAINT firing_helpers_item_lines CHECK (item ~ E'^(?:[^\\u000a\\u000d]*)$'),
  CONSTRAINT firing_helpers_item_max_length CHECK (char_length(item) <= 30),
  CONSTRAINT firing_helpers_distinct UNIQUE (firing_tag, item)
);

COMMENT ON TABLE firings_helpers IS 'Helpers (echo-rule 157747668dec1061)';
COMMENT ON COLUMN firings_helpers.firing_tag IS 'Firing tag';
COMMENT ON COLUMN firings_helpers.position IS 'Place';
COMMENT ON COLUMN firings_helpers.item IS 'Helper';
