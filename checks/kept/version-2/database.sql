SET statement_timeout = 0;
SET lock_timeout = 0;
SET idle_in_transaction_session_timeout = 0;
SET client_encoding = 'UTF8';
SET standard_conforming_strings = on;
SELECT pg_catalog.set_config('search_path', '', false);
SET check_function_bodies = false;
SET xmloption = content;
SET client_min_messages = warning;
SET row_security = off;
SET default_tablespace = '';
SET default_table_access_method = heap;
CREATE TABLE public.asks (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    kind text NOT NULL,
    room_id text,
    box_id text,
    note text,
    due_on text,
    done_at text,
    done_by text,
    drafted jsonb
);
CREATE TABLE public.bands (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    room_id text NOT NULL,
    kind text NOT NULL,
    corner text,
    along_in double precision,
    x_in double precision,
    y_in double precision,
    width_in double precision NOT NULL,
    depth_in double precision NOT NULL,
    from_in double precision NOT NULL,
    to_in double precision NOT NULL
);
CREATE TABLE public.boxes (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    room_id text,
    tag text NOT NULL,
    fittings jsonb,
    clamps text,
    fixture_wires jsonb,
    isolated_ground jsonb,
    neutral_exception text,
    as_built jsonb,
    written_seq integer NOT NULL,
    catalogue_id text,
    marked_volume_in3 double precision,
    material text,
    kind text,
    gangs double precision,
    slots double precision,
    marked_clamps text,
    ground_screw boolean,
    fan_rated boolean,
    wall double precision,
    along_in double precision,
    height_in double precision,
    height_reference text,
    place_note text,
    neutral_reason text,
    drafted jsonb,
    corner text,
    faces_out boolean,
    x_in double precision,
    y_in double precision
);
CREATE TABLE public.catalogue_boxes (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    name text NOT NULL,
    material text NOT NULL,
    kind text NOT NULL,
    gangs double precision NOT NULL,
    slots double precision NOT NULL,
    clamps text NOT NULL,
    ground_screw boolean NOT NULL,
    volume_in3 double precision,
    fan_rated boolean,
    width_in double precision,
    written_seq integer NOT NULL,
    most_cables double precision
);
CREATE TABLE public.catalogue_devices (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    name text NOT NULL,
    mount text NOT NULL,
    points jsonb NOT NULL,
    connection text NOT NULL,
    needs_neutral boolean NOT NULL,
    feed_through boolean NOT NULL,
    supply text,
    written_seq integer NOT NULL
);
CREATE TABLE public.circuits (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    number double precision NOT NULL,
    name text NOT NULL,
    panel_id text NOT NULL,
    poles double precision NOT NULL,
    spaces jsonb,
    breaker_amps double precision NOT NULL,
    protection text NOT NULL,
    neutral_group text,
    nameplate jsonb,
    two_wires boolean,
    written_seq integer NOT NULL,
    drafted jsonb,
    nameplate_open boolean
);
CREATE TABLE public.connector_names (
    crew_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    connector text NOT NULL,
    name text NOT NULL
);
CREATE TABLE public.controls (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    name text NOT NULL,
    places jsonb NOT NULL,
    loads jsonb NOT NULL,
    pinned_order jsonb,
    whole_area_seen boolean,
    written_seq integer NOT NULL,
    drafted jsonb
);
CREATE TABLE public.crew (
    id uuid NOT NULL,
    name text NOT NULL,
    seq integer NOT NULL,
    changed_at timestamp with time zone NOT NULL
);
CREATE TABLE public.crew_journal (
    crew_id uuid NOT NULL,
    seq integer NOT NULL,
    change_id uuid NOT NULL,
    actor_id uuid,
    device_id uuid,
    made_at timestamp with time zone,
    version integer NOT NULL,
    at timestamp with time zone NOT NULL,
    change jsonb NOT NULL,
    diff jsonb NOT NULL,
    change_bytes integer NOT NULL,
    diff_bytes integer NOT NULL
);
CREATE TABLE public.devices (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    box_id text NOT NULL,
    gang double precision NOT NULL,
    width_gangs double precision,
    catalogue_id text NOT NULL,
    written_seq integer NOT NULL,
    drafted jsonb
);
CREATE TABLE public.drafts (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    room_id text,
    keys jsonb NOT NULL
);
CREATE TABLE public.habits (
    crew_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    key text NOT NULL,
    override jsonb NOT NULL
);
CREATE TABLE public.house (
    crew_id uuid NOT NULL,
    id uuid NOT NULL,
    name text NOT NULL,
    base text NOT NULL,
    overrides jsonb NOT NULL,
    seq integer NOT NULL,
    changed_at timestamp with time zone NOT NULL,
    power text
);
CREATE TABLE public.journal (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    seq integer NOT NULL,
    change_id uuid NOT NULL,
    by text,
    at timestamp with time zone NOT NULL,
    change jsonb NOT NULL,
    diff jsonb NOT NULL,
    change_bytes integer NOT NULL,
    diff_bytes integer NOT NULL,
    actor_id uuid,
    device_id uuid,
    made_at timestamp with time zone,
    version integer NOT NULL
);
ALTER TABLE ONLY public.journal ALTER COLUMN change SET COMPRESSION lz4;
ALTER TABLE ONLY public.journal ALTER COLUMN diff SET COMPRESSION lz4;
CREATE TABLE public.kits (
    crew_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    name text NOT NULL,
    room_kind text,
    boxes jsonb NOT NULL
);
CREATE TABLE public.mikro_orm_migrations (
    id integer NOT NULL,
    name character varying(255),
    executed_at timestamp with time zone DEFAULT CURRENT_TIMESTAMP
);
CREATE SEQUENCE public.mikro_orm_migrations_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER SEQUENCE public.mikro_orm_migrations_id_seq OWNED BY public.mikro_orm_migrations.id;
CREATE TABLE public.openings (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    room_id text NOT NULL,
    wall double precision,
    along_in double precision NOT NULL,
    width_in double precision NOT NULL,
    sill_in double precision NOT NULL,
    head_in double precision NOT NULL,
    written_seq integer NOT NULL,
    corner text,
    kind text,
    hinge text
);
CREATE TABLE public.people (
    crew_id uuid NOT NULL,
    name text NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    "left" boolean,
    language text
);
CREATE TABLE public.points (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    device_id text NOT NULL,
    role text NOT NULL,
    name text,
    circuit_id text,
    watts double precision,
    written_seq integer NOT NULL,
    drafted jsonb
);
CREATE TABLE public.prices (
    crew_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    kind text NOT NULL,
    item text,
    amount double precision NOT NULL
);
CREATE TABLE public.pulls (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    run_id text NOT NULL,
    cable text,
    reel_id text,
    start_mark double precision,
    end_mark double precision,
    length_in double precision,
    at text NOT NULL,
    by text NOT NULL,
    state text NOT NULL,
    note text,
    written_seq integer NOT NULL
);
CREATE TABLE public.records (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    kind text NOT NULL,
    at text NOT NULL,
    by text NOT NULL,
    circuit_id text,
    box_id text,
    run_id text,
    step text,
    result text,
    note text,
    written_seq integer NOT NULL
);
CREATE TABLE public.reels (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    name text NOT NULL,
    kind text NOT NULL,
    cable text NOT NULL,
    length_in double precision NOT NULL,
    parent_id text,
    written_seq integer NOT NULL
);
CREATE TABLE public.room_kits (
    crew_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    room_kind text NOT NULL,
    ways double precision NOT NULL,
    items jsonb NOT NULL
);
CREATE TABLE public.rooms (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    storey_id text NOT NULL,
    name text NOT NULL,
    kind text NOT NULL,
    "order" double precision NOT NULL,
    outline jsonb,
    written_seq integer NOT NULL,
    length_in double precision,
    width_in double precision,
    ways double precision,
    floor_build_in double precision,
    finishes jsonb
);
CREATE TABLE public.runs (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    kind text NOT NULL,
    circuit_ids jsonb NOT NULL,
    "from" jsonb NOT NULL,
    "to" jsonb NOT NULL,
    planned_cable text,
    wires jsonb,
    purpose text,
    label text,
    route jsonb,
    measured_length_in double precision,
    trade_size text,
    written_seq integer NOT NULL,
    drafted jsonb
);
CREATE TABLE public.stock (
    crew_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    written_seq integer NOT NULL,
    name text NOT NULL,
    kind text NOT NULL,
    cable text NOT NULL,
    length_in double precision NOT NULL,
    parent_id text
);
CREATE TABLE public.storeys (
    crew_id uuid NOT NULL,
    house_id uuid NOT NULL,
    id uuid NOT NULL,
    list_place double precision NOT NULL,
    name text NOT NULL,
    ceiling_in double precision,
    overhead text,
    below text,
    written_seq integer NOT NULL,
    framing text,
    framing_runs text
);
ALTER TABLE ONLY public.mikro_orm_migrations ALTER COLUMN id SET DEFAULT nextval('public.mikro_orm_migrations_id_seq'::regclass);
INSERT INTO public.boxes VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000000b', 9, '00310000-0000-4000-8000-000000000006', 'PANEL', NULL, NULL, NULL, NULL, NULL, NULL, 0, 'panel', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 1, 40, 66, 'top', NULL, NULL, NULL, NULL, NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000010', 13, '00310000-0000-4000-8000-000000000004', 'R3', NULL, NULL, NULL, NULL, NULL, NULL, 0, 'plastic-1g-18', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 22, 48, 'centre', NULL, NULL, NULL, 'c3', NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000013', 16, '00310000-0000-4000-8000-000000000003', 'L1', NULL, NULL, NULL, NULL, NULL, NULL, 0, 'plastic-round-20', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 74, 62),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000014', 17, '00310000-0000-4000-8000-000000000005', 'R6', NULL, NULL, NULL, NULL, NULL, NULL, 0, 'plastic-1g-18', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000000d', 10, '00310000-0000-4000-8000-000000000003', 'S1', NULL, NULL, NULL, NULL, NULL, NULL, 1, 'plastic-2g-32', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 3, 66, 48, 'centre', NULL, NULL, NULL, NULL, NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000000e', 11, '00310000-0000-4000-8000-000000000003', 'R1', NULL, NULL, NULL, NULL, NULL, NULL, 2, 'plastic-1g-18', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 31, 48, 'centre', 'left of the stove pipe', NULL, NULL, 'c2', NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000011', 14, '00310000-0000-4000-8000-000000000004', 'R4', NULL, NULL, NULL, NULL, NULL, NULL, 3, 'plastic-1g-18', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 50, 48, 'centre', NULL, NULL, NULL, 'c4', NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000000f', 12, '00310000-0000-4000-8000-000000000003', 'R2', NULL, NULL, NULL, NULL, NULL, NULL, 11, 'plastic-1g-18', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 80, 48, 'centre', NULL, NULL, NULL, 'c1', NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000012', 15, '00310000-0000-4000-8000-000000000005', 'R5', NULL, NULL, NULL, NULL, NULL, NULL, 12, 'plastic-1g-18', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL, 0, 40, 16, 'centre', NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.circuits VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000000c', 18, 1, 'Bedrooms', '00310000-0000-4000-8000-00000000000b', 1, NULL, 15, 'afci', NULL, NULL, NULL, 0, NULL, NULL);
INSERT INTO public.crew VALUES
	('00000000-0000-4000-8000-00000000c0de', 'This crew', 1, '2026-11-27 13:16:02.325+00');
INSERT INTO public.crew_journal VALUES
	('00000000-0000-4000-8000-00000000c0de', 1, 'bd8b348d-7a83-45ce-8bfc-7462f6276473', '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2, '2026-11-27 13:16:02.324+00', '{"id": "bd8b348d-7a83-45ce-8bfc-7462f6276473", "body": {"kind": "person.add", "record": {"id": "2997d699-4f8e-5ca0-8188-7cb3387618f3"}}, "version": 2}', '{"head": {}, "rows": [{"id": "2997d699-4f8e-5ca0-8188-7cb3387618f3", "added": {"at": 2, "record": {"id": "2997d699-4f8e-5ca0-8188-7cb3387618f3"}}, "table": "people"}]}', 141, 155);
INSERT INTO public.devices VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000015', 19, '00310000-0000-4000-8000-00000000000e', 1, NULL, 'receptacle', 0, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000016', 20, '00310000-0000-4000-8000-00000000000f', 1, NULL, 'receptacle', 0, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000017', 21, '00310000-0000-4000-8000-000000000010', 1, NULL, 'receptacle', 0, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000018', 22, '00310000-0000-4000-8000-000000000012', 1, NULL, 'receptacle', 0, NULL);
INSERT INTO public.house VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 'Lot 31', 'us-2020', '{}', 13, '2026-11-27 13:16:02.434+00', NULL);
INSERT INTO public.journal VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 1, 'd204e84f-f9df-4c12-bfab-0c91c50ae2f7', NULL, '2026-11-27 13:16:02.375+00', '{"id": "d204e84f-f9df-4c12-bfab-0c91c50ae2f7", "body": {"kind": "box.set", "fields": {"wall": {"to": 3}, "alongIn": {"to": 66}}, "recordId": "00310000-0000-4000-8000-00000000000d"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-00000000000d", "table": "boxes", "changed": {"wall": {"to": 3, "from": 0}, "alongIn": {"to": 66, "from": 60}}}]}', 180, 149, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 2, '9a44afc0-7fa7-430e-8ac0-5f3b2a979c35', NULL, '2026-11-27 13:16:02.38+00', '{"id": "9a44afc0-7fa7-430e-8ac0-5f3b2a979c35", "body": {"kind": "box.set", "fields": {"wall": {"to": null}, "corner": {"to": "c2"}, "alongIn": {"to": 31}}, "recordId": "00310000-0000-4000-8000-00000000000e"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-00000000000e", "table": "boxes", "changed": {"wall": {"from": 3}, "corner": {"to": "c2"}, "alongIn": {"to": 31, "from": 30}}}]}', 204, 163, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 3, '559883c7-d2fe-40ca-9911-44a5ff889342', NULL, '2026-11-27 13:16:02.384+00', '{"id": "559883c7-d2fe-40ca-9911-44a5ff889342", "body": {"kind": "box.set", "fields": {"wall": {"to": null}, "alongIn": {"to": 50}}, "recordId": "00310000-0000-4000-8000-000000000011"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-000000000011", "table": "boxes", "changed": {"wall": {"from": 2}, "alongIn": {"to": 50, "from": 44}}}]}', 183, 142, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 4, '65c087ee-bef1-44a9-ac34-373de25654a5', NULL, '2026-11-27 13:16:02.389+00', '{"id": "65c087ee-bef1-44a9-ac34-373de25654a5", "body": {"kind": "opening.set", "fields": {"wall": {"to": 1}}, "recordId": "00310000-0000-4000-8000-000000000007"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-000000000007", "table": "openings", "changed": {"wall": {"to": 1, "from": 0}}}]}', 164, 122, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 5, '968df479-6f0c-4244-8ae0-2c78a76ac985', NULL, '2026-11-27 13:16:02.393+00', '{"id": "968df479-6f0c-4244-8ae0-2c78a76ac985", "body": {"kind": "opening.set", "fields": {"wall": {"to": null}, "corner": {"to": "c3"}, "alongIn": {"to": 24}}, "recordId": "00310000-0000-4000-8000-000000000008"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-000000000008", "table": "openings", "changed": {"wall": {"from": 2}, "corner": {"to": "c3"}, "alongIn": {"to": 24, "from": 20}}}]}', 208, 166, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 6, '3448c3eb-e389-4244-a328-2fc8a68640c1', NULL, '2026-11-27 13:16:02.398+00', '{"id": "3448c3eb-e389-4244-a328-2fc8a68640c1", "body": {"kind": "box.add", "record": {"id": "00310000-0000-4000-8000-00000000f001", "tag": "R7", "wall": 4, "roomId": "00310000-0000-4000-8000-000000000005", "alongIn": 8, "catalogueId": "plastic-1g-18"}}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-00000000f001", "added": {"at": 27, "record": {"id": "00310000-0000-4000-8000-00000000f001", "tag": "R7", "wall": 4, "roomId": "00310000-0000-4000-8000-000000000005", "alongIn": 8, "catalogueId": "plastic-1g-18"}}, "table": "boxes"}]}', 248, 265, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 7, '21b35a08-8407-44dc-9bdf-4cfd7ca5a390', NULL, '2026-11-27 13:16:02.403+00', '{"id": "21b35a08-8407-44dc-9bdf-4cfd7ca5a390", "body": {"kind": "box.set", "fields": {"tag": {"to": "R8"}, "wall": {"to": 2}}, "recordId": "00310000-0000-4000-8000-00000000f001"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-00000000f001", "table": "boxes", "changed": {"tag": {"to": "R8", "from": "R7"}, "wall": {"to": 2, "from": 4}}}]}', 178, 149, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 8, '8a5dddaf-28c7-4162-a599-68008721a14f', NULL, '2026-11-27 13:16:02.407+00', '{"id": "8a5dddaf-28c7-4162-a599-68008721a14f", "body": {"kind": "box.remove", "recordId": "00310000-0000-4000-8000-00000000f001"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-00000000f001", "table": "boxes", "removed": {"at": 27, "record": {"id": "00310000-0000-4000-8000-00000000f001", "tag": "R8", "wall": 2, "roomId": "00310000-0000-4000-8000-000000000005", "alongIn": 8, "catalogueId": "plastic-1g-18"}}}]}', 136, 267, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 9, '81b813da-2eaa-48c2-b34e-35024d4de99e', NULL, '2026-11-27 13:16:02.412+00', '{"id": "81b813da-2eaa-48c2-b34e-35024d4de99e", "body": {"kind": "room.set", "fields": {"outline": {"to": [{"xIn": 0, "yIn": 200}, {"xIn": 100, "yIn": 200}, {"xIn": 100, "yIn": 300}, {"xIn": 0, "yIn": 300}]}}, "recordId": "00310000-0000-4000-8000-000000000005"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-000000000005", "table": "rooms", "changed": {"outline": {"to": [{"xIn": 0, "yIn": 200}, {"xIn": 100, "yIn": 200}, {"xIn": 100, "yIn": 300}, {"xIn": 0, "yIn": 300}]}}}]}', 248, 197, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 10, '199b8bc8-3327-46b4-b4c7-b0d4c03c35bd', NULL, '2026-11-27 13:16:02.418+00', '{"id": "199b8bc8-3327-46b4-b4c7-b0d4c03c35bd", "body": {"kind": "room.set", "fields": {"outline": {"to": [{"id": "c0", "xIn": 0, "yIn": 0}, {"id": "c1", "xIn": 148, "yIn": 0}, {"id": "c2", "xIn": 148, "yIn": 130}, {"id": "c3", "xIn": 0, "yIn": 130}]}}, "recordId": "00310000-0000-4000-8000-000000000003"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-000000000003", "table": "rooms", "changed": {"outline": {"to": [{"id": "c0", "xIn": 0, "yIn": 0}, {"id": "c1", "xIn": 148, "yIn": 0}, {"id": "c2", "xIn": 148, "yIn": 130}, {"id": "c3", "xIn": 0, "yIn": 130}], "from": [{"xIn": 0, "yIn": 0}, {"xIn": 148, "yIn": 0}, {"xIn": 148, "yIn": 124}, {"xIn": 0, "yIn": 124}]}}}]}', 284, 322, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 11, '18dc04d1-9264-4d68-9595-ddf918548e18', NULL, '2026-11-27 13:16:02.425+00', '{"id": "18dc04d1-9264-4d68-9595-ddf918548e18", "body": {"kind": "group", "title": "Moved two", "changes": [{"kind": "box.set", "fields": {"wall": {"to": 0}, "alongIn": {"to": 40}}, "recordId": "00310000-0000-4000-8000-000000000012"}, {"kind": "box.set", "fields": {"alongIn": {"to": 80}}, "recordId": "00310000-0000-4000-8000-00000000000f"}, {"kind": "opening.add", "record": {"id": "00310000-0000-4000-8000-00000000f002", "wall": 2, "headIn": 80, "roomId": "00310000-0000-4000-8000-000000000005", "sillIn": 0, "alongIn": 10, "widthIn": 30}}]}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-000000000012", "table": "boxes", "changed": {"wall": {"to": 0, "from": 1}, "alongIn": {"to": 40, "from": 12}}}, {"id": "00310000-0000-4000-8000-00000000000f", "table": "boxes", "changed": {"alongIn": {"to": 80, "from": 70}}}, {"id": "00310000-0000-4000-8000-00000000f002", "added": {"at": 28, "record": {"id": "00310000-0000-4000-8000-00000000f002", "wall": 2, "headIn": 80, "roomId": "00310000-0000-4000-8000-000000000005", "sillIn": 0, "alongIn": 10, "widthIn": 30}}, "table": "openings"}]}', 513, 497, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 12, '5cc99dad-6e73-4b6e-8d58-c50ca31f16cd', NULL, '2026-11-27 13:16:02.429+00', '{"id": "5cc99dad-6e73-4b6e-8d58-c50ca31f16cd", "body": {"kind": "box.set", "fields": {"heightIn": {"to": 16}}, "recordId": "00310000-0000-4000-8000-000000000012"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-000000000012", "table": "boxes", "changed": {"heightIn": {"to": 16, "from": 48}}}]}', 165, 125, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', 13, '9716addc-cc0c-4fc4-b6b0-14317cfbf9b3', NULL, '2026-11-27 13:16:02.434+00', '{"id": "9716addc-cc0c-4fc4-b6b0-14317cfbf9b3", "body": {"kind": "opening.remove", "recordId": "00310000-0000-4000-8000-00000000000a"}, "version": 2}', '{"head": {}, "rows": [{"id": "00310000-0000-4000-8000-00000000000a", "table": "openings", "removed": {"at": 8, "record": {"id": "00310000-0000-4000-8000-00000000000a", "wall": 1, "headIn": 80, "roomId": "00310000-0000-4000-8000-000000000005", "sillIn": 0, "alongIn": 20, "widthIn": 32}}}]}', 140, 265, '2997d699-4f8e-5ca0-8188-7cb3387618f3', NULL, NULL, 2);
INSERT INTO public.mikro_orm_migrations VALUES
	(1, '2026-11-first', '2026-11-27 13:16:02.147903+00'),
	(2, '2026-11-wiring', '2026-11-27 13:16:02.147903+00'),
	(3, '2026-11-kept', '2026-11-27 13:16:02.147903+00'),
	(4, '2026-11-version-2', '2026-11-27 13:16:02.147903+00'),
	(5, '2026-11-crew-book', '2026-11-27 13:16:02.147903+00'),
	(6, '2026-11-power', '2026-11-27 13:16:02.147903+00'),
	(7, '2026-11-drafting', '2026-11-27 13:16:02.147903+00'),
	(8, '2026-11-layout', '2026-11-27 13:16:02.147903+00');
INSERT INTO public.openings VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000009', 7, '00310000-0000-4000-8000-000000000004', NULL, 20, 32, 0, 80, 0, 'c4', 'door', 'b'),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000007', 5, '00310000-0000-4000-8000-000000000003', 1, 20, 32, 0, 80, 4, NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000008', 6, '00310000-0000-4000-8000-000000000003', NULL, 24, 32, 36, 80, 5, 'c3', NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000f002', 28, '00310000-0000-4000-8000-000000000005', 2, 10, 30, 0, 80, 11, NULL, NULL, NULL);
INSERT INTO public.people VALUES
	('00000000-0000-4000-8000-00000000c0de', 'Hand', 'e1010d9f-c821-52fc-84cd-07f72c62df67', 0, 0, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', 'Lead', '925d4364-cbca-5c4d-8ea9-ccdd3eeb62c7', 1, 0, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', 'Tobin', '2997d699-4f8e-5ca0-8188-7cb3387618f3', 2, 1, NULL, NULL);
INSERT INTO public.rooms VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000004', 2, '00310000-0000-4000-8000-000000000002', 'Bath', 'bath', 2, '[{"id": "c0", "xIn": 148, "yIn": 0}, {"id": "c4", "xIn": 296, "yIn": 0}, {"id": "c2", "xIn": 296, "yIn": 124}, {"id": "c3", "xIn": 148, "yIn": 124}]', 0, NULL, NULL, NULL, NULL, '[{"boardIn": 0.5}, {"corner": "c4", "tileIn": 0.375, "boardIn": 0.5}]'),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000006', 4, '00310000-0000-4000-8000-000000000002', 'Utility', 'utility', 4, NULL, 0, NULL, NULL, NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000005', 3, '00310000-0000-4000-8000-000000000002', 'Hall', 'hall', 3, '[{"xIn": 0, "yIn": 200}, {"xIn": 100, "yIn": 200}, {"xIn": 100, "yIn": 300}, {"xIn": 0, "yIn": 300}]', 9, NULL, NULL, NULL, NULL, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000003', 1, '00310000-0000-4000-8000-000000000002', 'Office', 'office', 1, '[{"id": "c0", "xIn": 0, "yIn": 0}, {"id": "c1", "xIn": 148, "yIn": 0}, {"id": "c2", "xIn": 148, "yIn": 130}, {"id": "c3", "xIn": 0, "yIn": 130}]', 10, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.runs VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000019', 23, 'cable', '["00310000-0000-4000-8000-00000000000c"]', '{"boxId": "00310000-0000-4000-8000-00000000000b"}', '{"boxId": "00310000-0000-4000-8000-00000000000d"}', '14/2', NULL, NULL, NULL, NULL, NULL, NULL, 0, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000001a', 24, 'cable', '["00310000-0000-4000-8000-00000000000c"]', '{"boxId": "00310000-0000-4000-8000-00000000000d"}', '{"boxId": "00310000-0000-4000-8000-000000000013"}', '14/2', NULL, NULL, NULL, NULL, NULL, NULL, 0, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000001b', 25, 'cable', '["00310000-0000-4000-8000-00000000000c"]', '{"boxId": "00310000-0000-4000-8000-00000000000d"}', '{"boxId": "00310000-0000-4000-8000-00000000000e"}', '14/2', NULL, NULL, NULL, NULL, NULL, NULL, 0, NULL),
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-00000000001c', 26, 'cable', '["00310000-0000-4000-8000-00000000000c"]', '{"boxId": "00310000-0000-4000-8000-00000000000e"}', '{"boxId": "00310000-0000-4000-8000-00000000000f"}', '14/2', NULL, NULL, NULL, NULL, NULL, NULL, 0, NULL);
INSERT INTO public.storeys VALUES
	('00000000-0000-4000-8000-00000000c0de', '00310000-0000-4000-8000-000000000001', '00310000-0000-4000-8000-000000000002', 0, 'First floor', NULL, NULL, NULL, 0, NULL, NULL);
SELECT pg_catalog.setval('public.mikro_orm_migrations_id_seq', 8, true);
ALTER TABLE ONLY public.asks
    ADD CONSTRAINT asks_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.bands
    ADD CONSTRAINT bands_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.boxes
    ADD CONSTRAINT boxes_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.catalogue_boxes
    ADD CONSTRAINT catalogue_boxes_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.catalogue_devices
    ADD CONSTRAINT catalogue_devices_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.circuits
    ADD CONSTRAINT circuits_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.connector_names
    ADD CONSTRAINT connector_names_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.controls
    ADD CONSTRAINT controls_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.crew_journal
    ADD CONSTRAINT crew_journal_change_id_unique UNIQUE (crew_id, change_id);
ALTER TABLE ONLY public.crew_journal
    ADD CONSTRAINT crew_journal_pkey PRIMARY KEY (crew_id, seq);
ALTER TABLE ONLY public.crew
    ADD CONSTRAINT crew_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.devices
    ADD CONSTRAINT devices_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.drafts
    ADD CONSTRAINT drafts_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.habits
    ADD CONSTRAINT habits_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.house
    ADD CONSTRAINT house_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_change_id_unique UNIQUE (crew_id, house_id, change_id);
ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_pkey PRIMARY KEY (crew_id, house_id, seq);
ALTER TABLE ONLY public.kits
    ADD CONSTRAINT kits_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.mikro_orm_migrations
    ADD CONSTRAINT mikro_orm_migrations_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.openings
    ADD CONSTRAINT openings_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.people
    ADD CONSTRAINT people_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.people
    ADD CONSTRAINT person_name UNIQUE (crew_id, name);
ALTER TABLE ONLY public.points
    ADD CONSTRAINT points_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.prices
    ADD CONSTRAINT prices_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.pulls
    ADD CONSTRAINT pulls_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.records
    ADD CONSTRAINT records_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.reels
    ADD CONSTRAINT reels_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.room_kits
    ADD CONSTRAINT room_kits_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.rooms
    ADD CONSTRAINT rooms_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.runs
    ADD CONSTRAINT runs_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.stock
    ADD CONSTRAINT stock_pkey PRIMARY KEY (crew_id, id);
ALTER TABLE ONLY public.storeys
    ADD CONSTRAINT storeys_pkey PRIMARY KEY (crew_id, house_id, id);
ALTER TABLE ONLY public.asks
    ADD CONSTRAINT asks_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.bands
    ADD CONSTRAINT bands_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.boxes
    ADD CONSTRAINT boxes_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.catalogue_boxes
    ADD CONSTRAINT catalogue_boxes_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.catalogue_devices
    ADD CONSTRAINT catalogue_devices_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.circuits
    ADD CONSTRAINT circuits_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.connector_names
    ADD CONSTRAINT connector_names_crew_id_fkey FOREIGN KEY (crew_id) REFERENCES public.crew(id);
ALTER TABLE ONLY public.controls
    ADD CONSTRAINT controls_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.crew_journal
    ADD CONSTRAINT crew_journal_crew_id_fkey FOREIGN KEY (crew_id) REFERENCES public.crew(id);
ALTER TABLE ONLY public.devices
    ADD CONSTRAINT devices_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.drafts
    ADD CONSTRAINT drafts_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.habits
    ADD CONSTRAINT habits_crew_id_fkey FOREIGN KEY (crew_id) REFERENCES public.crew(id);
ALTER TABLE ONLY public.journal
    ADD CONSTRAINT journal_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.kits
    ADD CONSTRAINT kits_crew_id_fkey FOREIGN KEY (crew_id) REFERENCES public.crew(id);
ALTER TABLE ONLY public.openings
    ADD CONSTRAINT openings_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.points
    ADD CONSTRAINT points_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.prices
    ADD CONSTRAINT prices_crew_id_fkey FOREIGN KEY (crew_id) REFERENCES public.crew(id);
ALTER TABLE ONLY public.pulls
    ADD CONSTRAINT pulls_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.records
    ADD CONSTRAINT records_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.reels
    ADD CONSTRAINT reels_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.room_kits
    ADD CONSTRAINT room_kits_crew_id_fkey FOREIGN KEY (crew_id) REFERENCES public.crew(id);
ALTER TABLE ONLY public.rooms
    ADD CONSTRAINT rooms_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.runs
    ADD CONSTRAINT runs_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
ALTER TABLE ONLY public.stock
    ADD CONSTRAINT stock_crew_id_fkey FOREIGN KEY (crew_id) REFERENCES public.crew(id);
ALTER TABLE ONLY public.storeys
    ADD CONSTRAINT storeys_house FOREIGN KEY (crew_id, house_id) REFERENCES public.house(crew_id, id) ON DELETE CASCADE;
