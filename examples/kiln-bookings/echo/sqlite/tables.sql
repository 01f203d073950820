-- Made by echo-rule from rules/kiln.rules.ts, rules/potter.rules.ts, rules/firing.rules.ts. Change the rules, not this file: it is made again.
-- Digest: sha256-46c07e689a69a4df9a3508050ad5d1cbfe5b0fbedcc2bd66ebdbc0556d7eb42e

-- Tables of these names that are there already must be these very ones.
WITH
  declared_table (table_name, mark) AS (VALUES ('kilns', 'echo-rule 1119982769c4c119'), ('potters', 'echo-rule 20abe59c1cc1d0ea'), ('firings', 'echo-rule 1d11a160af594bf9'), ('firings_helpers', 'echo-rule 49779d796262c6e8')),
  declared_column (table_name, column_name, type, required) AS (VALUES
    ('kilns', 'code', 'TEXT', 'NOT NULL'),
    ('kilns', 'name', 'TEXT', 'NOT NULL'),
    ('kilns', 'hottest', 'INT', 'NOT NULL'),
    ('potters', 'handle', 'TEXT', 'NOT NULL'),
    ('potters', 'name', 'TEXT', 'NOT NULL'),
    ('potters', 'phone', 'TEXT', 'NULL'),
    ('potters', 'email', 'TEXT', 'NULL'),
    ('potters', 'member_since', 'TEXT', 'NOT NULL'),
    ('potters', 'inducted', 'INTEGER', 'NOT NULL'),
    ('firings', 'tag', 'TEXT', 'NOT NULL'),
    ('firings', 'kiln', 'TEXT', 'NOT NULL'),
    ('firings', 'potter', 'TEXT', 'NOT NULL'),
    ('firings', 'title', 'TEXT', 'NOT NULL'),
    ('firings', 'pieces', 'INT', 'NOT NULL'),
    ('firings', 'peak', 'INT', 'NOT NULL'),
    ('firings', 'glaze', 'TEXT', 'NOT NULL'),
    ('firings', 'vented', 'INTEGER', 'NOT NULL'),
    ('firings', 'fee', 'REAL', 'NULL'),
    ('firings', 'load_on', 'TEXT', 'NOT NULL'),
    ('firings', 'collect_on', 'TEXT', 'NULL'),
    ('firings', 'shelf_bay', 'TEXT', 'NULL'),
    ('firings', 'shelf_level', 'INT', 'NULL'),
    ('firings', 'notes', 'TEXT', 'NULL'),
    ('firings_helpers', 'firing_tag', 'TEXT', 'NOT NULL'),
    ('firings_helpers', 'position', 'INTEGER', 'NOT NULL'),
    ('firings_helpers', 'item', 'TEXT', 'NOT NULL')),
  there AS (SELECT table_name, mark, sql FROM declared_table JOIN sqlite_master ON type = 'table' AND name = table_name),
  found_column AS (
    SELECT table_name, name AS column_name, type, iif("notnull", 'NOT NULL', 'NULL') AS required
    FROM there JOIN pragma_table_info(table_name)),
  difference (what) AS (
    SELECT d.table_name || '.' || d.column_name || ' is ' || coalesce(f.type || ' ' || f.required, 'not there')
      || ', declared ' || d.type || ' ' || d.required
    FROM there JOIN declared_column d USING (table_name)
    LEFT JOIN found_column f ON f.table_name = d.table_name AND f.column_name = d.column_name
    WHERE (d.type, d.required) IS NOT (f.type, f.required)
      AND NOT (d.type IS f.type AND EXISTS (
        SELECT 1 FROM pragma_table_info(d.table_name) AS info WHERE info.name = d.column_name AND info.pk > 0))
    UNION ALL
    SELECT f.table_name || '.' || f.column_name || ' is ' || f.type || ', declared not at all'
    FROM found_column f LEFT JOIN declared_column d ON f.table_name = d.table_name AND f.column_name = d.column_name
    WHERE d.column_name IS NULL
    UNION ALL
    SELECT table_name || ' was made from other rules' FROM there WHERE instr(sql, mark) = 0)
SELECT json_extract('{}', 'the tables that are there differ: ' || differences)
FROM (SELECT group_concat(what, '; ') AS differences FROM difference) WHERE differences IS NOT NULL;

CREATE TABLE IF NOT EXISTS kilns ( -- Kiln (echo-rule 1119982769c4c119)
  code TEXT NOT NULL, -- Kiln code
  name TEXT NOT NULL, -- Name
  hottest INT NOT NULL, -- Hottest firing (°C)
  CONSTRAINT kiln_code_unique PRIMARY KEY (code),
  CONSTRAINT kiln_code_type CHECK (instr(code, char(0)) = 0 AND code NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT kiln_code_canonical CHECK (code = trim(code, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND code <> ''),
  CONSTRAINT kiln_code_lines CHECK (code NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT kiln_code_pattern CHECK (code GLOB 'K[0-9][0-9]'),
  CONSTRAINT kiln_name_type CHECK (instr(name, char(0)) = 0 AND name NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT kiln_name_canonical CHECK (name = trim(name, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND name <> ''),
  CONSTRAINT kiln_name_lines CHECK (name NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT kiln_name_min_length CHECK (length(name) >= 2),
  CONSTRAINT kiln_name_max_length CHECK (length(name) <= 40),
  CONSTRAINT kiln_hottest_min CHECK (hottest >= 900),
  CONSTRAINT kiln_hottest_max CHECK (hottest <= 1400)
) STRICT;

CREATE TABLE IF NOT EXISTS potters ( -- Potter (echo-rule 20abe59c1cc1d0ea)
  handle TEXT NOT NULL, -- Short name
  name TEXT NOT NULL, -- Name
  phone TEXT, -- Phone
  email TEXT, -- Email
  member_since TEXT NOT NULL, -- Member since
  inducted INTEGER NOT NULL, -- Has had the kiln induction
  CONSTRAINT potter_handle_unique PRIMARY KEY (handle),
  CONSTRAINT potter_handle_type CHECK (instr(handle, char(0)) = 0 AND handle NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT potter_handle_canonical CHECK (handle = trim(handle, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND handle <> ''),
  CONSTRAINT potter_handle_lines CHECK (handle NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT potter_handle_max_length CHECK (length(handle) <= 20),
  CONSTRAINT potter_handle_pattern CHECK (handle NOT GLOB '*[^0-9a-z-]*' AND handle GLOB '[a-z]*' AND handle GLOB '*[0-9a-z]' AND handle NOT GLOB '*--*' AND length(handle) >= 1),
  CONSTRAINT potter_name_type CHECK (instr(name, char(0)) = 0 AND name NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT potter_name_canonical CHECK (name = trim(name, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND name <> ''),
  CONSTRAINT potter_name_lines CHECK (name NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT potter_name_min_length CHECK (length(name) >= 2),
  CONSTRAINT potter_name_max_length CHECK (length(name) <= 60),
  CONSTRAINT potter_phone_type CHECK (instr(phone, char(0)) = 0 AND phone NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT potter_phone_canonical CHECK (phone = trim(phone, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND phone <> ''),
  CONSTRAINT potter_phone_lines CHECK (phone NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT potter_email_type CHECK (instr(email, char(0)) = 0 AND email NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT potter_email_canonical CHECK (email = trim(email, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND email <> '' AND email NOT GLOB '*[A-Z]*'),
  CONSTRAINT potter_email_lines CHECK (email NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT potter_email_max_length CHECK (length(email) <= 254),
  CONSTRAINT potter_member_since_type CHECK (member_since GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND date(member_since, '+0 days') IS member_since AND member_since >= '0001-01-01' AND instr(member_since, char(0)) = 0),
  CONSTRAINT potter_member_since_min CHECK (member_since >= '2015-01-01'),
  CONSTRAINT potter_inducted_type CHECK (inducted IN (0, 1)),
  CONSTRAINT potter_phone_taken_once UNIQUE (phone),
  CONSTRAINT potter_email_taken_once UNIQUE (email)
) STRICT;

CREATE TRIGGER IF NOT EXISTS potter_phone_pattern_insert BEFORE INSERT ON potters
WHEN NEW.phone IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    machine (moves, bytes) AS (SELECT x'001d0001001d001d001d00020003001d0004001d001d00050003001d0006001d001d00070003001d001d0008001d0009001d001d000a0008001d000b001d001d000c0008001d000d000e001d000f0008001d001d001d001d0010000e001d0011001d001d0012000e001d00130014001d0015000e001d001d001d001d00160014001d0017001d001d00180014001d0019001d001d001a0014001d001d001d001d001b001d001d001c001d001d001d', x'000102030405060708090a0b0c0d0e0f101112131415161718191a1b1c1d1e1f202122232425262728292a2b2c2d2e2f303132333435363738393a3b3c3d3e3f404142434445464748494a4b4c4d4e4f505152535455565758595a5b5c5d5e5f606162636465666768696a6b6c6d6e6f707172737475767778797a7b7c7d7e7f808182838485868788898a8b8c8d8e8f909192939495969798999a9b9c9d9e9fa0a1a2a3a4a5a6a7a8a9aaabacadaeafb0b1b2b3b4b5b6b7b8b9babbbcbdbebfc0c1c2c3c4c5c6c7c8c9cacbcccdcecfd0d1d2d3d4d5d6d7d8d9dadbdcdddedfe0e1e2e3e4e5e6e7e8e9eaebecedeeeff0f1f2f3f4f5f6f7f8f9fafbfcfdfeff'),
    walk (position, move, block, size) AS (
      SELECT 1, x'0000', substr(NEW.phone, 1, 256), length(NEW.phone)
      UNION ALL
      SELECT position + 1,
        substr(moves, 2 * (((instr(bytes, substr(move, 1, 1)) - 1) * 256 + (instr(bytes, substr(move, 2, 1)) - 1)) * 3 + (SELECT CASE WHEN point BETWEEN 32 AND 32 THEN 0 WHEN point BETWEEN 43 AND 43 THEN 1 WHEN point BETWEEN 48 AND 57 THEN 2 END FROM (SELECT unicode(substr(block, (position - 1) % 256 + 1, 1)) AS point))) + 1, 2),
        CASE position % 256 WHEN 0 THEN substr(NEW.phone, position + 1, 256) ELSE block END, size
      FROM walk, machine WHERE position <= size AND move <> x'001d'
    )
  SELECT 1 FROM walk WHERE position = size + 1 AND move IN (x'000c', x'000f', x'0011', x'0012', x'0013', x'0015', x'0017', x'0018', x'0019', x'001a', x'001b', x'001c')
)
BEGIN
  SELECT RAISE(ABORT, 'potter_phone_pattern');
END;

CREATE TRIGGER IF NOT EXISTS potter_phone_pattern_update BEFORE UPDATE OF phone ON potters
WHEN NEW.phone IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    machine (moves, bytes) AS (SELECT x'001d0001001d001d001d00020003001d0004001d001d00050003001d0006001d001d00070003001d001d0008001d0009001d001d000a0008001d000b001d001d000c0008001d000d000e001d000f0008001d001d001d001d0010000e001d0011001d001d0012000e001d00130014001d0015000e001d001d001d001d00160014001d0017001d001d00180014001d0019001d001d001a0014001d001d001d001d001b001d001d001c001d001d001d', x'000102030405060708090a0b0c0d0e0f101112131415161718191a1b1c1d1e1f202122232425262728292a2b2c2d2e2f303132333435363738393a3b3c3d3e3f404142434445464748494a4b4c4d4e4f505152535455565758595a5b5c5d5e5f606162636465666768696a6b6c6d6e6f707172737475767778797a7b7c7d7e7f808182838485868788898a8b8c8d8e8f909192939495969798999a9b9c9d9e9fa0a1a2a3a4a5a6a7a8a9aaabacadaeafb0b1b2b3b4b5b6b7b8b9babbbcbdbebfc0c1c2c3c4c5c6c7c8c9cacbcccdcecfd0d1d2d3d4d5d6d7d8d9dadbdcdddedfe0e1e2e3e4e5e6e7e8e9eaebecedeeeff0f1f2f3f4f5f6f7f8f9fafbfcfdfeff'),
    walk (position, move, block, size) AS (
      SELECT 1, x'0000', substr(NEW.phone, 1, 256), length(NEW.phone)
      UNION ALL
      SELECT position + 1,
        substr(moves, 2 * (((instr(bytes, substr(move, 1, 1)) - 1) * 256 + (instr(bytes, substr(move, 2, 1)) - 1)) * 3 + (SELECT CASE WHEN point BETWEEN 32 AND 32 THEN 0 WHEN point BETWEEN 43 AND 43 THEN 1 WHEN point BETWEEN 48 AND 57 THEN 2 END FROM (SELECT unicode(substr(block, (position - 1) % 256 + 1, 1)) AS point))) + 1, 2),
        CASE position % 256 WHEN 0 THEN substr(NEW.phone, position + 1, 256) ELSE block END, size
      FROM walk, machine WHERE position <= size AND move <> x'001d'
    )
  SELECT 1 FROM walk WHERE position = size + 1 AND move IN (x'000c', x'000f', x'0011', x'0012', x'0013', x'0015', x'0017', x'0018', x'0019', x'001a', x'001b', x'001c')
)
BEGIN
  SELECT RAISE(ABORT, 'potter_phone_pattern');
END;

CREATE TRIGGER IF NOT EXISTS potter_email_format_insert BEFORE INSERT ON potters
WHEN NEW.email IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    machine (moves, bytes) AS (SELECT x'000100010001000100be000200020002000200030004000400040004000300be00be00be000500be0006000600060006000300be00070003000800be0009000900090009000300be000a00be000b00be00be000a0003000b00be000c000c000c000c000300be000d00be000e00be00be000d0003000e00be000f000f000f000f000300be001000be001100be00be00100003001100be0012001200120012000300be001300be001400be00be00130003001400be0015001500150015000300be001600be001700be00be00160003001700be0018001800180018000300be001900be001a00be00be00190003001a00be001b001b001b001b000300be001c00be001d00be00be001c0003001d00be001e001e001e001e000300be001f00be002000be00be001f0003002000be0021002100210021000300be002200be002300be00be00220003002300be0024002400240024000300be002500be002600be00be00250003002600be0027002700270027000300be002800be002900be00be00280003002900be002a002a002a002a000300be002b00be002c00be00be002b0003002c00be002d002d002d002d000300be002e00be002f00be00be002e0003002f00be0030003000300030000300be003100be003200be00be00310003003200be0033003300330033000300be003400be003500be00be00340003003500be0036003600360036000300be003700be003800be00be00370003003800be0039003900390039000300be003a00be003b00be00be003a0003003b00be003c003c003c003c000300be003d00be003e00be00be003d0003003e00be003f003f003f003f000300be004000be004100be00be00400003004100be0042004200420042000300be004300be004400be00be00430003004400be0045004500450045000300be004600be004700be00be00460003004700be0048004800480048000300be004900be004a00be00be00490003004a00be004b004b004b004b000300be004c00be004d00be00be004c0003004d00be004e004e004e004e000300be004f00be005000be00be004f0003005000be0051005100510051000300be005200be005300be00be00520003005300be0054005400540054000300be005500be005600be00be00550003005600be0057005700570057000300be005800be005900be00be00580003005900be005a005a005a005a000300be005b00be005c00be00be005b0003005c00be005d005d005d005d000300be005e00be005f00be00be005e0003005f00be0060006000600060000300be006100be006200be00be00610003006200be0063006300630063000300be006400be006500be00be00640003006500be0066006600660066000300be006700be006800be00be00670003006800be0069006900690069000300be006a00be006b00be00be006a0003006b00be006c006c006c006c000300be006d00be006e00be00be006d0003006e00be006f006f006f006f000300be007000be007100be00be00700003007100be0072007200720072000300be007300be007400be00be00730003007400be0075007500750075000300be007600be007700be00be00760003007700be0078007800780078000300be007900be007a00be00be00790003007a00be007b007b007b007b000300be007c00be007d00be00be007c0003007d00be007e007e007e007e000300be007f00be008000be00be007f0003008000be0081008100810081000300be008200be008300be00be00820003008300be0084008400840084000300be008500be008600be00be00850003008600be0087008700870087000300be008800be008900be00be00880003008900be008a008a008a008a000300be008b00be008c00be00be008b0003008c00be008d008d008d008d000300be008e00be008f00be00be008e0003008f00be0090009000900090000300be009100be009200be00be00910003009200be0093009300930093000300be009400be009500be00be00940003009500be0096009600960096000300be009700be009800be00be00970003009800be0099009900990099000300be009a00be009b00be00be009a0003009b00be009c009c009c009c000300be009d00be009e00be00be009d0003009e00be009f009f009f009f000300be00a000be00a100be00be00a0000300a100be00a200a200a200a2000300be00a300be00a400be00be00a3000300a400be00a500a500a500a5000300be00a600be00a700be00be00a6000300a700be00a800a800a800a8000300be00a900be00aa00be00be00a9000300aa00be00ab00ab00ab00ab000300be00ac00be00ad00be00be00ac000300ad00be00ae00ae00ae00ae000300be00af00be00b000be00be00af000300b000be00b100b100b100b1000300be00b200be00b300be00be00b2000300b300be00b400b400b400b4000300be00b500be00b600be00be00b5000300b600be00b700b700b700b7000300be00b800be00b900be00be00b8000300b900be00ba00ba00ba00ba000300be00bb00be00bc00be00be00bb000300bc00be00be00be00be00be000300be00be00be00bd00be00be00be000300bd00be00be00be000300be00be', x'000102030405060708090a0b0c0d0e0f101112131415161718191a1b1c1d1e1f202122232425262728292a2b2c2d2e2f303132333435363738393a3b3c3d3e3f404142434445464748494a4b4c4d4e4f505152535455565758595a5b5c5d5e5f606162636465666768696a6b6c6d6e6f707172737475767778797a7b7c7d7e7f808182838485868788898a8b8c8d8e8f909192939495969798999a9b9c9d9e9fa0a1a2a3a4a5a6a7a8a9aaabacadaeafb0b1b2b3b4b5b6b7b8b9babbbcbdbebfc0c1c2c3c4c5c6c7c8c9cacbcccdcecfd0d1d2d3d4d5d6d7d8d9dadbdcdddedfe0e1e2e3e4e5e6e7e8e9eaebecedeeeff0f1f2f3f4f5f6f7f8f9fafbfcfdfeff'),
    walk (position, move, block, size) AS (
      SELECT 1, x'0000', substr(NEW.email, 1, 256), length(NEW.email)
      UNION ALL
      SELECT position + 1,
        substr(moves, 2 * (((instr(bytes, substr(move, 1, 1)) - 1) * 256 + (instr(bytes, substr(move, 2, 1)) - 1)) * 5 + (SELECT CASE WHEN point < 61 THEN CASE WHEN point BETWEEN 33 AND 33 THEN 0 WHEN point BETWEEN 35 AND 39 THEN 0 WHEN point BETWEEN 42 AND 43 THEN 0 WHEN point BETWEEN 45 AND 45 THEN 1 WHEN point BETWEEN 46 AND 46 THEN 2 WHEN point BETWEEN 47 AND 47 THEN 0 WHEN point BETWEEN 48 AND 57 THEN 3 END ELSE CASE WHEN point BETWEEN 61 AND 61 THEN 0 WHEN point BETWEEN 63 AND 63 THEN 0 WHEN point BETWEEN 64 AND 64 THEN 4 WHEN point BETWEEN 65 AND 90 THEN 3 WHEN point BETWEEN 94 AND 96 THEN 0 WHEN point BETWEEN 97 AND 122 THEN 3 WHEN point BETWEEN 123 AND 126 THEN 0 END END FROM (SELECT unicode(substr(block, (position - 1) % 256 + 1, 1)) AS point))) + 1, 2),
        CASE position % 256 WHEN 0 THEN substr(NEW.email, position + 1, 256) ELSE block END, size
      FROM walk, machine WHERE position <= size AND move <> x'00be'
    )
  SELECT 1 FROM walk WHERE position = size + 1 AND move IN (x'0005', x'0008', x'000b', x'000e', x'0011', x'0014', x'0017', x'001a', x'001d', x'0020', x'0023', x'0026', x'0029', x'002c', x'002f', x'0032', x'0035', x'0038', x'003b', x'003e', x'0041', x'0044', x'0047', x'004a', x'004d', x'0050', x'0053', x'0056', x'0059', x'005c', x'005f', x'0062', x'0065', x'0068', x'006b', x'006e', x'0071', x'0074', x'0077', x'007a', x'007d', x'0080', x'0083', x'0086', x'0089', x'008c', x'008f', x'0092', x'0095', x'0098', x'009b', x'009e', x'00a1', x'00a4', x'00a7', x'00aa', x'00ad', x'00b0', x'00b3', x'00b6', x'00b9', x'00bc', x'00bd')
)
BEGIN
  SELECT RAISE(ABORT, 'potter_email_format');
END;

CREATE TRIGGER IF NOT EXISTS potter_email_format_update BEFORE UPDATE OF email ON potters
WHEN NEW.email IS NOT NULL AND NOT EXISTS (
  WITH RECURSIVE
    machine (moves, bytes) AS (SELECT x'000100010001000100be000200020002000200030004000400040004000300be00be00be000500be0006000600060006000300be00070003000800be0009000900090009000300be000a00be000b00be00be000a0003000b00be000c000c000c000c000300be000d00be000e00be00be000d0003000e00be000f000f000f000f000300be001000be001100be00be00100003001100be0012001200120012000300be001300be001400be00be00130003001400be0015001500150015000300be001600be001700be00be00160003001700be0018001800180018000300be001900be001a00be00be00190003001a00be001b001b001b001b000300be001c00be001d00be00be001c0003001d00be001e001e001e001e000300be001f00be002000be00be001f0003002000be0021002100210021000300be002200be002300be00be00220003002300be0024002400240024000300be002500be002600be00be00250003002600be0027002700270027000300be002800be002900be00be00280003002900be002a002a002a002a000300be002b00be002c00be00be002b0003002c00be002d002d002d002d000300be002e00be002f00be00be002e0003002f00be0030003000300030000300be003100be003200be00be00310003003200be0033003300330033000300be003400be003500be00be00340003003500be0036003600360036000300be003700be003800be00be00370003003800be0039003900390039000300be003a00be003b00be00be003a0003003b00be003c003c003c003c000300be003d00be003e00be00be003d0003003e00be003f003f003f003f000300be004000be004100be00be00400003004100be0042004200420042000300be004300be004400be00be00430003004400be0045004500450045000300be004600be004700be00be00460003004700be0048004800480048000300be004900be004a00be00be00490003004a00be004b004b004b004b000300be004c00be004d00be00be004c0003004d00be004e004e004e004e000300be004f00be005000be00be004f0003005000be0051005100510051000300be005200be005300be00be00520003005300be0054005400540054000300be005500be005600be00be00550003005600be0057005700570057000300be005800be005900be00be00580003005900be005a005a005a005a000300be005b00be005c00be00be005b0003005c00be005d005d005d005d000300be005e00be005f00be00be005e0003005f00be0060006000600060000300be006100be006200be00be00610003006200be0063006300630063000300be006400be006500be00be00640003006500be0066006600660066000300be006700be006800be00be00670003006800be0069006900690069000300be006a00be006b00be00be006a0003006b00be006c006c006c006c000300be006d00be006e00be00be006d0003006e00be006f006f006f006f000300be007000be007100be00be00700003007100be0072007200720072000300be007300be007400be00be00730003007400be0075007500750075000300be007600be007700be00be00760003007700be0078007800780078000300be007900be007a00be00be00790003007a00be007b007b007b007b000300be007c00be007d00be00be007c0003007d00be007e007e007e007e000300be007f00be008000be00be007f0003008000be0081008100810081000300be008200be008300be00be00820003008300be0084008400840084000300be008500be008600be00be00850003008600be0087008700870087000300be008800be008900be00be00880003008900be008a008a008a008a000300be008b00be008c00be00be008b0003008c00be008d008d008d008d000300be008e00be008f00be00be008e0003008f00be0090009000900090000300be009100be009200be00be00910003009200be0093009300930093000300be009400be009500be00be00940003009500be0096009600960096000300be009700be009800be00be00970003009800be0099009900990099000300be009a00be009b00be00be009a0003009b00be009c009c009c009c000300be009d00be009e00be00be009d0003009e00be009f009f009f009f000300be00a000be00a100be00be00a0000300a100be00a200a200a200a2000300be00a300be00a400be00be00a3000300a400be00a500a500a500a5000300be00a600be00a700be00be00a6000300a700be00a800a800a800a8000300be00a900be00aa00be00be00a9000300aa00be00ab00ab00ab00ab000300be00ac00be00ad00be00be00ac000300ad00be00ae00ae00ae00ae000300be00af00be00b000be00be00af000300b000be00b100b100b100b1000300be00b200be00b300be00be00b2000300b300be00b400b400b400b4000300be00b500be00b600be00be00b5000300b600be00b700b700b700b7000300be00b800be00b900be00be00b8000300b900be00ba00ba00ba00ba000300be00bb00be00bc00be00be00bb000300bc00be00be00be00be00be000300be00be00be00bd00be00be00be000300bd00be00be00be000300be00be', x'000102030405060708090a0b0c0d0e0f101112131415161718191a1b1c1d1e1f202122232425262728292a2b2c2d2e2f303132333435363738393a3b3c3d3e3f404142434445464748494a4b4c4d4e4f505152535455565758595a5b5c5d5e5f606162636465666768696a6b6c6d6e6f707172737475767778797a7b7c7d7e7f808182838485868788898a8b8c8d8e8f909192939495969798999a9b9c9d9e9fa0a1a2a3a4a5a6a7a8a9aaabacadaeafb0b1b2b3b4b5b6b7b8b9babbbcbdbebfc0c1c2c3c4c5c6c7c8c9cacbcccdcecfd0d1d2d3d4d5d6d7d8d9dadbdcdddedfe0e1e2e3e4e5e6e7e8e9eaebecedeeeff0f1f2f3f4f5f6f7f8f9fafbfcfdfeff'),
    walk (position, move, block, size) AS (
      SELECT 1, x'0000', substr(NEW.email, 1, 256), length(NEW.email)
      UNION ALL
      SELECT position + 1,
        substr(moves, 2 * (((instr(bytes, substr(move, 1, 1)) - 1) * 256 + (instr(bytes, substr(move, 2, 1)) - 1)) * 5 + (SELECT CASE WHEN point < 61 THEN CASE WHEN point BETWEEN 33 AND 33 THEN 0 WHEN point BETWEEN 35 AND 39 THEN 0 WHEN point BETWEEN 42 AND 43 THEN 0 WHEN point BETWEEN 45 AND 45 THEN 1 WHEN point BETWEEN 46 AND 46 THEN 2 WHEN point BETWEEN 47 AND 47 THEN 0 WHEN point BETWEEN 48 AND 57 THEN 3 END ELSE CASE WHEN point BETWEEN 61 AND 61 THEN 0 WHEN point BETWEEN 63 AND 63 THEN 0 WHEN point BETWEEN 64 AND 64 THEN 4 WHEN point BETWEEN 65 AND 90 THEN 3 WHEN point BETWEEN 94 AND 96 THEN 0 WHEN point BETWEEN 97 AND 122 THEN 3 WHEN point BETWEEN 123 AND 126 THEN 0 END END FROM (SELECT unicode(substr(block, (position - 1) % 256 + 1, 1)) AS point))) + 1, 2),
        CASE position % 256 WHEN 0 THEN substr(NEW.email, position + 1, 256) ELSE block END, size
      FROM walk, machine WHERE position <= size AND move <> x'00be'
    )
  SELECT 1 FROM walk WHERE position = size + 1 AND move IN (x'0005', x'0008', x'000b', x'000e', x'0011', x'0014', x'0017', x'001a', x'001d', x'0020', x'0023', x'0026', x'0029', x'002c', x'002f', x'0032', x'0035', x'0038', x'003b', x'003e', x'0041', x'0044', x'0047', x'004a', x'004d', x'0050', x'0053', x'0056', x'0059', x'005c', x'005f', x'0062', x'0065', x'0068', x'006b', x'006e', x'0071', x'0074', x'0077', x'007a', x'007d', x'0080', x'0083', x'0086', x'0089', x'008c', x'008f', x'0092', x'0095', x'0098', x'009b', x'009e', x'00a1', x'00a4', x'00a7', x'00aa', x'00ad', x'00b0', x'00b3', x'00b6', x'00b9', x'00bc', x'00bd')
)
BEGIN
  SELECT RAISE(ABORT, 'potter_email_format');
END;

CREATE TABLE IF NOT EXISTS firings ( -- Firing (echo-rule 1d11a160af594bf9)
  tag TEXT NOT NULL, -- Firing tag
  kiln TEXT NOT NULL, -- Kiln
  potter TEXT NOT NULL, -- Booked by
  title TEXT NOT NULL, -- What is fired
  pieces INT NOT NULL, -- Number of pieces
  peak INT NOT NULL, -- Peak temperature (°C)
  glaze TEXT NOT NULL, -- Glaze
  vented INTEGER NOT NULL, -- Vent open
  fee REAL, -- Fee paid
  load_on TEXT NOT NULL, -- Loading day
  collect_on TEXT, -- Collection day
  shelf_bay TEXT, -- Bay
  shelf_level INT, -- Level
  notes TEXT, -- Notes
  CONSTRAINT firing_tag_unique PRIMARY KEY (tag),
  CONSTRAINT firing_tag_type CHECK (instr(tag, char(0)) = 0 AND tag NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_tag_canonical CHECK (tag = trim(tag, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND tag <> ''),
  CONSTRAINT firing_tag_lines CHECK (tag NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_tag_pattern CHECK (tag GLOB '[A-Z][A-Z]-[0-9][0-9][0-9][0-9]'),
  CONSTRAINT firing_kiln_type CHECK (instr(kiln, char(0)) = 0 AND kiln NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_kiln_canonical CHECK (kiln = trim(kiln, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND kiln <> ''),
  CONSTRAINT firing_kiln_lines CHECK (kiln NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_kiln_pattern CHECK (kiln GLOB 'K[0-9][0-9]'),
  CONSTRAINT firing_potter_type CHECK (instr(potter, char(0)) = 0 AND potter NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_potter_canonical CHECK (potter = trim(potter, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND potter <> ''),
  CONSTRAINT firing_potter_lines CHECK (potter NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_potter_max_length CHECK (length(potter) <= 20),
  CONSTRAINT firing_potter_pattern CHECK (potter NOT GLOB '*[^0-9a-z-]*' AND potter GLOB '[a-z]*' AND potter GLOB '*[0-9a-z]' AND potter NOT GLOB '*--*' AND length(potter) >= 1),
  CONSTRAINT firing_title_type CHECK (instr(title, char(0)) = 0 AND title NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_title_canonical CHECK (title = trim(title, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND title <> ''),
  CONSTRAINT firing_title_lines CHECK (title NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_title_min_length CHECK (length(title) >= 3),
  CONSTRAINT firing_title_max_length CHECK (length(title) <= 60),
  CONSTRAINT firing_pieces_min CHECK (pieces >= 1),
  CONSTRAINT firing_pieces_max CHECK (pieces <= 40),
  CONSTRAINT firing_peak_min CHECK (peak >= 600),
  CONSTRAINT firing_peak_max CHECK (peak <= 1320),
  CONSTRAINT firing_glaze_enumeration CHECK (glaze IN ('none', 'celadon', 'tenmoku', 'lustre')),
  CONSTRAINT firing_vented_type CHECK (vented IN (0, 1)),
  CONSTRAINT firing_fee_precision CHECK (fee < 1000 AND fee > -1000),
  CONSTRAINT firing_fee_scale CHECK (fee = round(fee, 2)),
  CONSTRAINT firing_fee_min CHECK (fee >= 0),
  CONSTRAINT firing_fee_max CHECK (fee <= 500),
  CONSTRAINT firing_load_on_type CHECK (load_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND date(load_on, '+0 days') IS load_on AND load_on >= '0001-01-01' AND instr(load_on, char(0)) = 0),
  CONSTRAINT firing_collect_on_type CHECK (collect_on GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]' AND date(collect_on, '+0 days') IS collect_on AND collect_on >= '0001-01-01' AND instr(collect_on, char(0)) = 0),
  CONSTRAINT firing_shelf_bay_required CHECK (shelf_bay IS NOT NULL OR (shelf_bay IS NULL AND shelf_level IS NULL)),
  CONSTRAINT firing_shelf_bay_type CHECK (instr(shelf_bay, char(0)) = 0 AND shelf_bay NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_shelf_bay_canonical CHECK (shelf_bay = trim(shelf_bay, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND shelf_bay <> ''),
  CONSTRAINT firing_shelf_bay_lines CHECK (shelf_bay NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_shelf_bay_pattern CHECK (shelf_bay GLOB '[A-F]' OR shelf_bay GLOB '[A-F][0-9]'),
  CONSTRAINT firing_shelf_level_required CHECK (shelf_level IS NOT NULL OR (shelf_level IS NULL AND shelf_bay IS NULL)),
  CONSTRAINT firing_shelf_level_min CHECK (shelf_level >= 1),
  CONSTRAINT firing_shelf_level_max CHECK (shelf_level <= 6),
  CONSTRAINT firing_notes_type CHECK (instr(notes, char(0)) = 0 AND notes NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_notes_canonical CHECK (notes = trim(notes, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND notes <> '' AND instr(notes, char(13)) = 0),
  CONSTRAINT firing_notes_max_length CHECK (length(notes) <= 500),
  CONSTRAINT firing_collect_after_loading CHECK (collect_on > load_on),
  CONSTRAINT firing_lustre_needs_venting CHECK (NOT (glaze = 'lustre') OR vented = 1),
  CONSTRAINT firing_celadon_fired_hot CHECK (NOT (glaze = 'celadon') OR peak >= 1200),
  CONSTRAINT firing_kiln_reference FOREIGN KEY (kiln) REFERENCES kilns (code) ON DELETE NO ACTION,
  CONSTRAINT firing_potter_reference FOREIGN KEY (potter) REFERENCES potters (handle) ON DELETE NO ACTION,
  CONSTRAINT firing_one_firing_per_day UNIQUE (kiln, load_on)
) STRICT;

CREATE INDEX IF NOT EXISTS firing_by_potter ON firings (potter, load_on);

CREATE TABLE IF NOT EXISTS firings_helpers ( -- Helpers (echo-rule 49779d796262c6e8)
  firing_tag TEXT NOT NULL, -- Firing tag
  position INTEGER NOT NULL, -- Place
  item TEXT NOT NULL, -- Helper
  CONSTRAINT firing_helpers_key PRIMARY KEY (firing_tag, position),
  CONSTRAINT firing_helpers_owner FOREIGN KEY (firing_tag) REFERENCES firings (tag) ON DELETE CASCADE ON UPDATE CASCADE,
  CONSTRAINT firing_helpers_place CHECK (position >= 1),
  CONSTRAINT firing_helpers_max_items CHECK (position <= 4),
  CONSTRAINT firing_helpers_item_type CHECK (instr(item, char(0)) = 0 AND item NOT GLOB ('*' || char(65533) || '*')),
  CONSTRAINT firing_helpers_item_canonical CHECK (item = trim(item, char(9, 10, 11, 12, 13, 32, 160, 5760, 8192, 8193, 8194, 8195, 8196, 8197, 8198, 8199, 8200, 8201, 8202, 8232, 8233, 8239, 8287, 12288, 65279)) AND item <> ''),
  CONSTRAINT firing_helpers_item_lines CHECK (item NOT GLOB ('*[' || char(10, 13) || ']*')),
  CONSTRAINT firing_helpers_item_max_length CHECK (length(item) <= 30),
  CONSTRAINT firing_helpers_distinct UNIQUE (firing_tag, item)
) STRICT;
