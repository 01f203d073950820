CREATE TABLE kilns (code text PRIMARY KEY, name text NOT NULL, hottest integer NOT NULL);
CREATE TABLE potters (
  handle text PRIMARY KEY, name text NOT NULL, phone text UNIQUE, email text UNIQUE, member_since date NOT NULL,
  inducted boolean NOT NULL
);
CREATE TABLE firings (
  tag text PRIMARY KEY CHECK (tag ~ '^[A-Z]{2}-[0-9]{4}$'),
  kiln text NOT NULL REFERENCES kilns CHECK (kiln ~ '^K[0-9]{2}$'),
  potter text NOT NULL REFERENCES potters CHECK (potter ~ '^[a-z][a-z0-9]*(-[a-z0-9]+)*$' AND char_length(potter) <= 20),
  title text NOT NULL
    CHECK (char_length(title) BETWEEN 3 AND 60)
    CHECK (title = btrim(title, E'\t\n\v\f\r \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff'))
    CHECK (title !~ E'[\n\r\uFFFD]'),
  pieces smallint NOT NULL CHECK (pieces BETWEEN 1 AND 40),
  peak smallint NOT NULL CHECK (peak BETWEEN 600 AND 1320),
  glaze text NOT NULL CHECK (glaze IN ('none', 'celadon', 'tenmoku', 'lustre')),
  vented boolean NOT NULL,
  load_on date NOT NULL CHECK (load_on BETWEEN '0001-01-01' AND '9999-12-31'),
  collect_on date CHECK (collect_on BETWEEN '0001-01-01' AND '9999-12-31'),
  fee numeric CHECK (fee BETWEEN 0 AND 500 AND fee = round(fee, 2)),
  shelf_bay text CHECK (shelf_bay ~ '^[A-F][0-9]?$'),
  shelf_level smallint CHECK (shelf_level BETWEEN 1 AND 6),
  notes text
    CHECK (char_length(notes) <= 500)
    CHECK (notes <> '' AND notes !~ E'[\r\uFFFD]')
    CHECK (notes = btrim(notes, E'\t\n\v\f\r \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff')),
  CHECK (collect_on > load_on),
  CHECK (glaze <> 'lustre' OR vented),
  CHECK (glaze <> 'celadon' OR peak >= 1200),
  CHECK ((shelf_bay IS NULL) = (shelf_level IS NULL)),
  UNIQUE (kiln, load_on)
);
CREATE TABLE firings_helpers (
  firing_tag text NOT NULL REFERENCES firings ON DELETE CASCADE,
  position integer NOT NULL CHECK (position BETWEEN 1 AND 4),
  item text NOT NULL
    CHECK (char_length(item) <= 30)
    CHECK (item <> '' AND item !~ E'[\n\r\uFFFD]')
    CHECK (item = btrim(item, E'\t\n\v\f\r \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff')),
  PRIMARY KEY (firing_tag, position),
  UNIQUE (firing_tag, item)
);
