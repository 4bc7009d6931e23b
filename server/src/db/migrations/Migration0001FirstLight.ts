import { Migration } from '@mikro-orm/migrations';

/** The first tables. Every key of a table that grows leads with school_id. */
export class Migration0001FirstLight extends Migration {
  override up(): void {
    this.addSql(`
      create table school (id uuid primary key, name text not null, created_at timestamptz not null);

      create table adult (
        school_id uuid not null references school on delete cascade, id uuid not null, email text not null, name text not null,
        password_hash text not null, created_at timestamptz not null, primary key (school_id, id));
      create unique index adult_email on adult (lower(email));

      create table sign_in (
        token_hash text primary key, school_id uuid not null, adult_id uuid not null, created_at timestamptz not null, expires_at timestamptz not null,
        foreign key (school_id, adult_id) references adult on delete cascade);
      create index sign_in_adult on sign_in (school_id, adult_id);

      create table class (
        school_id uuid not null references school on delete cascade, id uuid not null, name text not null, created_at timestamptz not null,
        primary key (school_id, id), unique (school_id, name));

      create table class_adult (
        school_id uuid not null, class_id uuid not null, adult_id uuid not null, primary key (school_id, class_id, adult_id),
        foreign key (school_id, class_id) references class on delete cascade, foreign key (school_id, adult_id) references adult on delete cascade);

      create table child (
        school_id uuid not null, id uuid not null, class_id uuid not null, nickname text not null, created_at timestamptz not null,
        primary key (school_id, id), foreign key (school_id, class_id) references class on delete cascade);
      create unique index child_nickname on child (school_id, class_id, lower(nickname));

      create table sitting (
        school_id uuid not null, id text not null, class_id uuid not null, routine text not null, started_at timestamptz not null,
        answer_mode text not null, settings jsonb, primary key (school_id, id),
        foreign key (school_id, class_id) references class on delete cascade);
      create index sitting_class on sitting (school_id, class_id, started_at);

      create table response (
        school_id uuid not null, id text not null, class_id uuid not null, child_id uuid not null, sitting_id text not null, shown_at timestamptz not null,
        kind text not null, fact text not null, answer_mode text not null, exposure_ms double precision, response_ms double precision, given text not null,
        outcome text not null, observed text not null, aid text not null, void text not null, flags jsonb not null, quality jsonb, extra jsonb not null,
        received_at timestamptz not null, primary key (school_id, id),
        foreign key (school_id, child_id) references child on delete cascade, foreign key (school_id, sitting_id) references sitting on delete cascade);
      create index response_class on response (school_id, class_id, shown_at, id);
      create index response_child on response (school_id, child_id, shown_at);
      create index response_received on response (school_id, class_id, received_at);

      create table reading (
        school_id uuid not null, child_id uuid not null, fact text not null, class_id uuid not null, reading text not null, p_automatic double precision not null,
        lean double precision not null, certainty double precision not null, responses int not null, days int not null, reason jsonb not null,
        primary key (school_id, child_id, fact), foreign key (school_id, child_id) references child on delete cascade);
      create index reading_class on reading (school_id, class_id);

      create table judgement (
        school_id uuid not null, child_id uuid not null, class_id uuid not null, fingerprint text not null, model_version text not null,
        settings jsonb not null, estimate jsonb not null, judged_at timestamptz not null, primary key (school_id, child_id),
        foreign key (school_id, child_id) references child on delete cascade);
      create index judgement_class on judgement (school_id, class_id);

      create table setting (
        school_id uuid not null, class_id uuid not null, name text not null, value jsonb not null, primary key (school_id, class_id, name),
        foreign key (school_id, class_id) references class on delete cascade);
    `);
  }

  override down(): void {
    this.addSql(
      'drop table setting, judgement, reading, response, sitting, child, class_adult, class, sign_in, adult, school;',
    );
  }
}
