"""Databases for tests: each has one of its own, which is emptied and used again."""

import os
import time
from itertools import count
from typing import Any

import psycopg

from jotgate.local import cluster as clusters
from jotgate.local.cluster import Cluster
from jotgate.settings import for_libpq
from jotgate.store.grants import grant
from jotgate.store.migrate import migrate

Connection = psycopg.Connection[tuple[Any, ...]]

TEMPLATE = "template_jotgate"

USES = 30
"""Times that a database is used: what is deleted in it takes room."""

KEEP = """
do $$
declare one record;
begin
  create schema kept;
  for one in select c.oid::regclass as name, c.relname
             from pg_class c where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
               and pg_relation_size(c.oid) > 0
  loop
    execute format('create table kept.%I as table %s', one.relname, one.name);
  end loop;
end $$
"""
"""What stands in a new database, to be put back."""

EMPTY = """
do $$
declare one record;
begin
  set local session_replication_role = replica;
  for one in select c.oid::regclass as name
             from pg_class c where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
               and pg_relation_size(c.oid) > 0
  loop
    execute format('delete from %s', one.name);
  end loop;
  for one in select c.oid::regclass as name, c.relkind from pg_class c
             where c.relnamespace = 'public'::regnamespace
               and c.relname ~ '^(numbers|er)_[0-9a-f]+$'
  loop
    if one.relkind = 'S' then
      execute format('drop sequence %s', one.name);
    else
      execute format('drop index %s', one.name);
    end if;
  end loop;
  for one in select c.relname from pg_class c where c.relnamespace = 'kept'::regnamespace
  loop
    execute format('insert into public.%1$I overriding system value table kept.%1$I', one.relname);
  end loop;
  for one in select format('%I.%I', schemaname, sequencename) as name, start_value
             from pg_sequences where last_value is not null
  loop
    perform setval(one.name, one.start_value, false);
  end loop;
end $$
"""
"""Without triggers and the checks of references, so that the order does not matter. What is made as
it is needed goes: sequences of entries' numbers, and indexes for tables of entries."""

SHAPE = """
select md5(string_agg(format('%s %s %s %s', n.nspname, c.relname, c.relkind, a.attname), ','
  order by n.nspname, c.relname, a.attnum))
from pg_class c join pg_namespace n on n.oid = c.relnamespace
left join pg_attribute a on a.attrelid = c.oid and a.attnum > 0 and c.relkind = 'r'
where n.nspname in ('public', 'kept') and c.relname !~ '^(numbers|er)_[0-9a-f]+$'
"""
OTHERS = "select count(*) from pg_stat_activity where datname = current_database() and pid <> %s"


def _alone(connection: Connection) -> bool:
    """Whether nobody else is in a database: what was closed takes a moment to be gone."""
    end = time.monotonic() + 2
    while connection.execute(OTHERS, (connection.info.backend_pid,)).fetchone() != (0,):
        if time.monotonic() > end:
            return False
        time.sleep(0.005)
    return True


class Databases:
    """Those of one cluster."""

    def __init__(self, cluster: Cluster) -> None:
        self._cluster = cluster
        self._names = count(1)
        self._free: list[str] = []
        self._uses: dict[str, int] = {}
        clusters.create_database(cluster, TEMPLATE)
        migrate(cluster.url(TEMPLATE))
        grant(cluster.url(TEMPLATE), clusters.REQUESTS, clusters.RESTRICTED)
        with self._in(TEMPLATE) as connection:
            connection.execute(KEEP)
            self._shape = connection.execute(SHAPE).fetchone()

    def _in(self, name: str) -> Connection:
        return psycopg.connect(for_libpq(self._cluster.url(name)), autocommit=True)

    def take(self) -> str:
        """The name of one that is as a new one."""
        if self._free:
            return self._free.pop()
        name = f"test_{os.getpid()}_{next(self._names)}"
        clusters.create_database(self._cluster, name, template=TEMPLATE)
        return name

    def give_back(self, name: str) -> None:
        """Empty one; one that the test changed the shape of, or that something still works in, is
        not used again."""
        self._uses[name] = self._uses.get(name, 0) + 1
        with self._in(name) as connection:
            is_as_new = connection.execute(SHAPE).fetchone() == self._shape and _alone(connection)
            if is_as_new and self._uses[name] < USES:
                connection.execute(EMPTY)
                self._free.append(name)
                return
        with self._in("postgres") as connection:
            connection.execute(f'drop database "{name}" with (force)')
