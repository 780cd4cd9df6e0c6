# frozen_string_literal: true

# An orchard of 20,000 trees, six limbs each, 100,000 grafts of five seasons and a million visits to them;
# and this season's work as it may stand in the middle of May: 400 stubs still to be grafted, wood for most of them,
# springs seen tree by tree, twenty stripped trunks. The same every time, written straight into the tables.
module LargeOrchard
  module_function

  TREES = 20_000
  ROWS = 140

  def build(slug, trees: TREES, seasons: 5)
    db = Vestry::DB
    place = Vestry::Records::Orchard.create(slug: slug, name: slug, latitude: 50.6, longitude: -2.9,
                                            time_zone: "Etc/UTC", grazing: "sheep", wind_from_deg: 240,
                                            school: "waxed-rind")
    kinds = Array.new(12) do |i|
      Vestry::Records::Variety.create(orchard_id: place.id, name: "Trial #{i}", species: "apple", bloom_from: "04-20",
                                      bloom_to: "05-02").id
    end
    # As an orchard that is brought in: it may take its time, and nobody reads its care yet.
    db.run("SET statement_timeout = 0; SET vestry.new_orchard = #{db.literal(place.id.to_s)}")
    db.run <<~SQL
      INSERT INTO trees (orchard_id, row, number, species, form, height_mm, trunk_girth_mm, x_m, y_m, variety_id,
        planted_year)
      SELECT #{place.id}, translate((i % #{ROWS} + 10000)::text, '0123456789', 'ABCDEFGHIJ'), i / #{ROWS} + 1, 'apple',
        'bush', 3800, 520, (i / #{ROWS}) * 5, (i % #{ROWS}) * -6, #{kinds[0]}, 1994
          FROM generate_series(0, #{trees - 1}) i;
      INSERT INTO limbs (orchard_id, tree_id, tag, fork_mm, bearing_deg, rise_deg, girth_mm, length_mm, surveyed_on)
      SELECT #{place.id}, t.id, chr(64 + k), 850 + k * 40, (k * 60) % 360, 45, 180 + t.id % 60, 2400, '2021-01-10'
        FROM trees t, generate_series(1, 6) k WHERE t.orchard_id = #{place.id};
      INSERT INTO grafts (orchard_id, limb_id, grafted_on, technique, variety_id, cut_mm, stub_mm, scion_mm, sticks,
        faces, grafter, wrap, seal, cover)
      SELECT #{place.id}, l.id, make_date(2027 - #{seasons} + ascii(l.tag) % #{seasons}, 4, 5) + (l.tree_id % 35), CASE
        WHEN l.id % 3 = 0 THEN 'inlay' ELSE 'rind' END, #{kinds[1]} + (l.id % 11), 900, 55, 8, 1 + l.id % 2, '{0}',
        (ARRAY['Orla Finch', 'Tam Reddaway', 'Ines Wood', 'Bram Hale'])[1 + l.tree_id % 4], 'stretch-tape', 'wax',
          'wax-only' FROM limbs l WHERE l.orchard_id = #{place.id} AND l.tag < 'F';
      INSERT INTO observations (orchard_id, graft_id, seen_on, buds, callus, longest_shoot_mm, verdict, seen_by)
      SELECT #{place.id}, g.id, g.grafted_on + 12 * k, CASE WHEN k < 2 THEN 'asleep'
        WHEN g.id % 9 = 0 THEN 'dead' ELSE 'leafing' END, 'some', CASE WHEN k > 2 AND g.id % 9 <> 0 THEN 60 * k END,
        CASE WHEN k = 3 THEN CASE WHEN g.id % 9 = 0 THEN 'failed' ELSE 'took' END END, g.grafter
          FROM grafts g, generate_series(1, 12) k WHERE g.orchard_id = #{place.id}
            AND g.grafted_on + 12 * k <= '2026-05-18';
      INSERT INTO tallies (orchard_id, graft_id, season, tallied_on, alive, growth_mm, above_mm, below_mm, open_a_mm,
        open_b_mm, tallied_by)
      SELECT #{place.id}, g.id, y, make_date(y, 10, 4), g.id % 9 <> 0, 700 - g.id % 300, 18, 22, greatest(0,
        52 - 11 * (y - extract(year FROM g.grafted_on))), greatest(0, 48 - 11 * (y - extract(year
          FROM g.grafted_on))), g.grafter
        FROM grafts g, generate_series(2020, 2025) y WHERE g.orchard_id = #{place.id} AND y >= extract(year
          FROM g.grafted_on);
      INSERT INTO weather_days (orchard_id, day, min_c, max_c, rain_mm, gust_ms)
      SELECT #{place.id}, d, 6 - 5 * cos(extract(doy FROM d) / 58.0), 15 - 8 * cos(extract(doy FROM d) / 58.0), CASE
        WHEN extract(doy FROM d)::int % 4 = 0 THEN 7 ELSE 0 END, 5 + extract(doy FROM d)::int % 9
          FROM generate_series('2014-01-01'::date, '2026-05-17', '1 day') d;
    SQL
    work(db, place, kinds) if trees >= 1000
    Vestry::Records::Places.settle(place)
    db.run("VACUUM ANALYZE")
    place
  end

  # What is under way this season.
  def work(db, place, kinds)
    db.run <<~SQL
      INSERT INTO plans (orchard_id, tree_id, purpose, school, seasons)
        SELECT #{place.id}, id, 'to be turned over', 'waxed-rind', 1 FROM trees WHERE orchard_id = #{place.id}
          AND id % 50 = 0;
      INSERT INTO plan_limbs (orchard_id, plan_id, limb_id, role, season, cut_mm, technique, variety_id, sticks, faces,
        stock_mm)
      SELECT #{place.id}, p.id, l.id, 'work', 2026, 900, CASE
        WHEN l.id % 3 = 0 THEN 'inlay' ELSE 'rind' END, #{kinds[0]} + (l.tree_id % 12), 2,
          '{-45,45}', 55 FROM plans p JOIN limbs l ON l.tree_id = p.tree_id AND l.tag = 'F'
            WHERE p.orchard_id = #{place.id};
      INSERT INTO stores (orchard_id, name) VALUES (#{place.id}, 'The cold room');
      INSERT INTO store_readings (orchard_id, store_id, at, celsius) SELECT #{place.id}, s.id, t, 2 + (extract(hour
        FROM t)::int % 5) / 4.0 FROM stores s, generate_series('2026-01-20'::timestamptz, '2026-05-17'::timestamptz,
          '1 hour') t WHERE s.orchard_id = #{place.id};
      INSERT INTO bundles (orchard_id, variety_id, source, cut_on, length_mm, ends, dip, packing, cut_by)
        SELECT #{place.id}, #{kinds[0]} + k, 'row ' || k, date '2026-01-20' + i, 180, 'sealed', 'none', 'dry-bag',
          'Orla Finch' FROM generate_series(0, 11) k, generate_series(0, 3) i;
      INSERT INTO bundle_stays (orchard_id, bundle_id, store_id, since) SELECT #{place.id}, b.id, s.id, b.cut_on
        FROM bundles b JOIN stores s USING (orchard_id) WHERE b.orchard_id = #{place.id};
      INSERT INTO sticks (orchard_id, bundle_id, number, diameter_mm)
        SELECT #{place.id}, b.id, n, 6 + (b.id * 7 + n * 3) % 9 FROM bundles b, generate_series(1, 18) n
          WHERE b.orchard_id = #{place.id};
      INSERT INTO phenology_seen (orchard_id, tree_id, seen_on, stage, slipping, seen_by)
      SELECT #{place.id}, id, make_date(y, 4, 1 + id % 28), 'green', CASE
        WHEN y < 2026 OR id % 2 = 0 THEN true END, 'Tam Reddaway' FROM trees, generate_series(2024, 2026) y
          WHERE orchard_id = #{place.id} AND id % 50 = 0;
      INSERT INTO weather_days (orchard_id, day, min_c, max_c, rain_mm, gust_ms, forecast) SELECT #{place.id}, d, 8, 17,
        CASE WHEN extract(doy FROM d)::int % 4 = 0 THEN 7 ELSE 0 END, 6, true
          FROM generate_series('2026-05-18'::date, '2026-05-28', '1 day') d;
      INSERT INTO wounds (orchard_id, tree_id, cause, found_on, girth_mm, bark_left)
        SELECT #{place.id}, id, 'teeth', '2026-02-03', 520, 0.3 FROM trees WHERE orchard_id = #{place.id}
          AND id % 1000 = 0;
      INSERT INTO wound_margins (orchard_id, wound_id, bearing_deg, low_mm, high_mm)
        SELECT #{place.id}, id, b, 60 + b / 10, 160 + b / 3 FROM wounds, generate_series(0, 270, 90) b
          WHERE orchard_id = #{place.id};
    SQL
  end
end
