# frozen_string_literal: true

# A count made between the end of a working year and the day buds swell was kept as the coming season's, and is the last
# one's: where that has none, and the graft stood by then.
Sequel.migration do
  up do
    run <<~SQL
      UPDATE tallies SET season = tallies.season - 1
      FROM grafts JOIN orchards ON orchards.id = grafts.orchard_id
      WHERE grafts.id = tallies.graft_id
        AND CASE WHEN orchards.latitude < 0
                 THEN to_char(tallied_on, 'MMDD') BETWEEN '0501' AND '0914'
                      AND tallies.season = extract(year FROM tallied_on)
                 ELSE (to_char(tallied_on, 'MMDD') >= '1101' AND tallies.season = extract(year FROM tallied_on) + 1)
                      OR (to_char(tallied_on, 'MMDD') < '0315' AND tallies.season = extract(year FROM tallied_on)) END
        AND tallies.season - 1 >= CASE WHEN orchards.latitude < 0
              THEN extract(year FROM grafted_on) - CASE WHEN extract(month FROM grafted_on) < 5 THEN 1 ELSE 0 END
              ELSE extract(year FROM grafted_on) + CASE WHEN extract(month FROM grafted_on) >= 11 THEN 1 ELSE 0 END END
        AND NOT EXISTS (SELECT 1 FROM tallies other
                        WHERE other.graft_id = tallies.graft_id AND other.season = tallies.season - 1)
    SQL
  end

  # They are right as they are.
  down { nil }
end
