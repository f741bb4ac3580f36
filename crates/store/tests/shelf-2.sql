-- A shelf as the second version of the tables keeps it.
CREATE TABLE documents (
            key        TEXT PRIMARY KEY,
            version    INTEGER NOT NULL,
            body       TEXT NOT NULL,
            changed_at TEXT NOT NULL
        ) STRICT;
INSERT INTO "documents" VALUES('kitchen',3,'{"version":3,"kitchen":{"figures":{"lime_juice":{"acid":6.5}},"produce":{"lime/medium":{"juice_ml":30.0}},"ingredients":[{"id":"own_plum_juice","name":"Plum juice","kind":"juice","form":"liquid","sugar":11.0,"acid":1.1,"alcohol":0.0,"insoluble":0.0}],"vessels":[{"name":"Big pot","kind":"pot","capacity":"8 l","material":"steel"}],"measuring":{"scale_g":1.0,"jug_ml":5.0,"cups":true,"spoons":true},"boil_off":1.2}}','1970-01-01T00:00:00Z');
INSERT INTO "documents" VALUES('choices',2,'{"format":"keen-pitcher/choices","version":1,"choices":{"units":"us","theme":"light","ticked":["lemon/medium"],"shown_by":{"white_sugar":"cups"}}}','2026-11-26T02:59:32.695485182Z');
CREATE TABLE drinks (
    id         TEXT PRIMARY KEY,
    version    INTEGER NOT NULL,
    name       TEXT NOT NULL,
    body       TEXT NOT NULL,
    created_at TEXT NOT NULL,
    changed_at TEXT NOT NULL,
    deleted_at TEXT
) STRICT;
INSERT INTO "drinks" VALUES('01a',5,'Mandarin fizz','{"format":"keen-pitcher/drink","version":1,"drink":{"name":"Mandarin fizz","family":"soda","note":"One part to one of soda, in the glass, at the last second. Kept by the second tables.","vessels":[{"id":"jug","kind":"jug","capacity":"1 l"},{"id":"sieve","kind":"sieve"},{"id":"pitcher","kind":"pitcher","capacity":"2 l"},{"id":"glass","kind":"glass","capacity":"300 ml"}],"steps":[{"id":"s1","do":{"squeeze":{"into":"jug","ingredient":"mandarin_juice","amount":"8 mandarins"}}},{"id":"s2","do":{"squeeze":{"into":"jug","ingredient":"lemon_juice","amount":"3 lemons"}}},{"id":"s3","do":{"add":{"into":"jug","ingredient":"simple_syrup_1_1","amount":"150 ml"}}},{"id":"s4","do":{"strain":{"from":"jug","through":"sieve","into":"pitcher","press":"drained"}}},{"id":"s5","do":{"cool":{"vessel":"pitcher","to_c":5.0,"place":"refrigerator"}}},{"id":"s6","do":{"add":{"into":"glass","ingredient":"ice","amount":"2 cubes"}}},{"id":"s7","do":{"serve":{"from":"pitcher","glass":"glass","glasses":6,"size":"105 ml"}}},{"id":"s8","do":{"lengthen":{"vessel":"glass","ingredient":"club_soda","parts":1.0}},"note":"cold, down the side"}]}}','2026-05-02T09:00:00Z','2026-11-26T02:59:32.688150123Z',NULL);
INSERT INTO "drinks" VALUES('01b',2,'Tamarind cooler','{"format":"keen-pitcher/drink","version":1,"drink":{"name":"Tamarind cooler","family":"lemonade","note":"Soak in hot water, work it through the sieve with a spoon. Kept by the second tables.","vessels":[{"id":"pot","kind":"pot","capacity":"2 l"},{"id":"sieve","kind":"sieve"},{"id":"pitcher","kind":"pitcher","capacity":"2.5 l"},{"id":"glass","kind":"glass","capacity":"300 ml"}],"steps":[{"id":"s1","do":{"add":{"into":"pot","ingredient":"tamarind_pulp","amount":"110 g"}},"note":"pulled apart"},{"id":"s2","do":{"add":{"into":"pot","ingredient":"water","amount":"700 ml"}}},{"id":"s3","do":{"heat":{"vessel":"pot","to_c":90.0,"minutes":5.0,"lid":false}}},{"id":"s4","do":{"infuse":{"vessel":"pot","minutes":30.0,"place":"worktop"}}},{"id":"s5","do":{"strain":{"from":"pot","through":"sieve","into":"pitcher","press":"pressed"}}},{"id":"s6","do":{"add":{"into":"pitcher","ingredient":"piloncillo","amount":"150 g"}},"note":"grated, while warm"},{"id":"s7","do":{"cool":{"vessel":"pitcher","to_c":30.0,"place":"water_bath"}}},{"id":"s8","do":{"top_up":{"vessel":"pitcher","ingredient":"water","to":"2 l"}}},{"id":"s9","do":{"cool":{"vessel":"pitcher","to_c":6.0,"place":"refrigerator"}}},{"id":"s10","do":{"serve":{"from":"pitcher","glass":"glass","glasses":8,"size":"250 ml"}}}]}}','2026-05-03T09:00:00Z','2026-11-26T02:59:32.692515646Z',NULL);
INSERT INTO "drinks" VALUES('01c',2,'Mint and cucumber water','{"name":"Mint and cucumber water","family":"fruit_water","note":"Ends of the cucumber off: they are bitter.","vessels":[{"id":"blender","kind":"blender","capacity":"1.75 l"},{"id":"cloth","kind":"cloth"},{"id":"pitcher","kind":"pitcher","capacity":"2.5 l"},{"id":"glass","kind":"glass","capacity":"300 ml"}],"steps":[{"id":"s1","do":{"add":{"into":"blender","ingredient":"cucumber","amount":"2 cucumbers"}},"note":"peeled in stripes"},{"id":"s2","do":{"add":{"into":"blender","ingredient":"mint","amount":"4 sprigs"}}},{"id":"s3","do":{"add":{"into":"blender","ingredient":"water","amount":"600 ml"}}},{"id":"s4","do":{"blend":{"vessel":"blender","seconds":20}}},{"id":"s5","do":{"strain":{"from":"blender","through":"cloth","into":"pitcher","press":"wrung"}}},{"id":"s6","do":{"squeeze":{"into":"pitcher","ingredient":"lime_juice","amount":"2 limes"}}},{"id":"s7","do":{"add":{"into":"pitcher","ingredient":"honey","amount":"1/4 cup"}}},{"id":"s8","do":{"add":{"into":"pitcher","ingredient":"white_sugar","amount":"40 g"}}},{"id":"s9","do":{"top_up":{"vessel":"pitcher","ingredient":"water","to":"2 l"}}},{"id":"s10","do":{"cool":{"vessel":"pitcher","to_c":6,"place":"refrigerator"}}},{"id":"s11","do":{"serve":{"from":"pitcher","glass":"glass","glasses":8,"size":"250 ml"}}}]}','2026-05-04T09:00:00Z','2026-06-01T09:00:00Z','2126-06-02T09:00:00Z');
CREATE TABLE earlier_documents (
            key        TEXT NOT NULL,
            version    INTEGER NOT NULL,
            body       TEXT NOT NULL,
            changed_at TEXT NOT NULL,
            PRIMARY KEY (key, version)
        ) STRICT;
INSERT INTO "earlier_documents" VALUES('choices',1,'{"units":"us","theme":"dark","ticked":["lemon/medium"],"shown_by":{"white_sugar":"cups"}}','1970-01-01T00:00:00Z');
CREATE TABLE earlier_versions (
    drink_id   TEXT NOT NULL REFERENCES drinks (id) ON DELETE CASCADE,
    version    INTEGER NOT NULL,
    body       TEXT NOT NULL,
    changed_at TEXT NOT NULL,
    PRIMARY KEY (drink_id, version)
) STRICT;
INSERT INTO "earlier_versions" VALUES('01a',2,'{"name":"Mandarin fizz","family":"soda","note":"One part to one of soda, in the glass, at the last second.","vessels":[{"id":"jug","kind":"jug","capacity":"1 l"},{"id":"sieve","kind":"sieve"},{"id":"pitcher","kind":"pitcher","capacity":"2 l"},{"id":"glass","kind":"glass","capacity":"300 ml"}],"steps":[{"id":"s1","do":{"squeeze":{"into":"jug","ingredient":"mandarin_juice","amount":"6 mandarins"}}},{"id":"s2","do":{"squeeze":{"into":"jug","ingredient":"lemon_juice","amount":"3 lemons"}}},{"id":"s3","do":{"add":{"into":"jug","ingredient":"simple_syrup_1_1","amount":"150 ml"}}},{"id":"s4","do":{"strain":{"from":"jug","through":"sieve","into":"pitcher","press":"drained"}}},{"id":"s5","do":{"cool":{"vessel":"pitcher","to_c":5,"place":"refrigerator"}}},{"id":"s6","do":{"add":{"into":"glass","ingredient":"ice","amount":"2 cubes"}}},{"id":"s7","do":{"serve":{"from":"pitcher","glass":"glass","glasses":6,"size":"105 ml"}}},{"id":"s8","do":{"lengthen":{"vessel":"glass","ingredient":"club_soda","parts":1}},"note":"cold, down the side"}]}','2026-05-10T09:00:00Z');
INSERT INTO "earlier_versions" VALUES('01a',4,'{"name":"Mandarin fizz","family":"soda","note":"One part to one of soda, in the glass, at the last second.","vessels":[{"id":"jug","kind":"jug","capacity":"1 l"},{"id":"sieve","kind":"sieve"},{"id":"pitcher","kind":"pitcher","capacity":"2 l"},{"id":"glass","kind":"glass","capacity":"300 ml"}],"steps":[{"id":"s1","do":{"squeeze":{"into":"jug","ingredient":"mandarin_juice","amount":"8 mandarins"}}},{"id":"s2","do":{"squeeze":{"into":"jug","ingredient":"lemon_juice","amount":"3 lemons"}}},{"id":"s3","do":{"add":{"into":"jug","ingredient":"simple_syrup_1_1","amount":"150 ml"}}},{"id":"s4","do":{"strain":{"from":"jug","through":"sieve","into":"pitcher","press":"drained"}}},{"id":"s5","do":{"cool":{"vessel":"pitcher","to_c":5,"place":"refrigerator"}}},{"id":"s6","do":{"add":{"into":"glass","ingredient":"ice","amount":"2 cubes"}}},{"id":"s7","do":{"serve":{"from":"pitcher","glass":"glass","glasses":6,"size":"105 ml"}}},{"id":"s8","do":{"lengthen":{"vessel":"glass","ingredient":"club_soda","parts":1}},"note":"cold, down the side"}]}','2026-06-20T18:30:00Z');
INSERT INTO "earlier_versions" VALUES('01b',1,'{"name":"Tamarind cooler","family":"lemonade","note":"Soak in hot water, work it through the sieve with a spoon.","vessels":[{"id":"pot","kind":"pot","capacity":"2 l"},{"id":"sieve","kind":"sieve"},{"id":"pitcher","kind":"pitcher","capacity":"2.5 l"},{"id":"glass","kind":"glass","capacity":"300 ml"}],"steps":[{"id":"s1","do":{"add":{"into":"pot","ingredient":"tamarind_pulp","amount":"110 g"}},"note":"pulled apart"},{"id":"s2","do":{"add":{"into":"pot","ingredient":"water","amount":"700 ml"}}},{"id":"s3","do":{"heat":{"vessel":"pot","to_c":90,"minutes":5,"lid":false}}},{"id":"s4","do":{"infuse":{"vessel":"pot","minutes":30,"place":"worktop"}}},{"id":"s5","do":{"strain":{"from":"pot","through":"sieve","into":"pitcher","press":"pressed"}}},{"id":"s6","do":{"add":{"into":"pitcher","ingredient":"piloncillo","amount":"150 g"}},"note":"grated, while warm"},{"id":"s7","do":{"cool":{"vessel":"pitcher","to_c":30,"place":"water_bath"}}},{"id":"s8","do":{"top_up":{"vessel":"pitcher","ingredient":"water","to":"2 l"}}},{"id":"s9","do":{"cool":{"vessel":"pitcher","to_c":6,"place":"refrigerator"}}},{"id":"s10","do":{"serve":{"from":"pitcher","glass":"glass","glasses":8,"size":"250 ml"}}}]}','2026-05-03T09:00:00Z');
CREATE TABLE said (
            key      TEXT PRIMARY KEY,
            of       TEXT NOT NULL,
            version  INTEGER NOT NULL,
            at       TEXT NOT NULL
        ) STRICT;
CREATE TABLE set_aside (
            id     INTEGER PRIMARY KEY,
            what   TEXT NOT NULL,
            body   TEXT NOT NULL,
            why    TEXT NOT NULL,
            at     TEXT NOT NULL
        ) STRICT;
CREATE INDEX drinks_by_change ON drinks (changed_at DESC) WHERE deleted_at IS NULL;
CREATE INDEX drinks_by_removal ON drinks (deleted_at) WHERE deleted_at IS NOT NULL;
PRAGMA user_version = 2;
