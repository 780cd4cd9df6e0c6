# frozen_string_literal: true

module Vestry
  module Deeds
    # Records what a graft has come to this autumn. A second tally of the same season corrects the first.
    module RecordTally
      # @return [Records::Tally]
      # @raise [Refused] when the day cannot be right, or the wound is wider than the stub
      def self.call(graft, values, by:, today:, version: nil)
        DayOfGraft.check(graft, :tallied_on, values[:tallied_on], today)
        check_growth(graft, values)
        DayOfGraft.check_shoot(graft, :growth_mm, values[:growth_mm], values[:tallied_on])
        season = season(graft, values[:tallied_on])
        DB.transaction do
          graft.locked
          row = Records::Tally.of(graft, season)
          next row if row && values[:client_key] && row.client_key == values[:client_key]

          check_wound(graft, (row ? row.values : {}).merge(values))
          next Ledger.change(row, values.except(:client_key), by: by, version: version) if row

          Ledger.add(Records::Tally, values.merge(orchard_id: graft.orchard_id, graft_id: graft.id, season: season),
                     by: by)
        end
      end

      # None before it was made.
      def self.season(graft, day)
        [graft.orchard.season_to_count(day), graft.orchard.season.name_of(graft.grafted_on)].max
      end

      # A bud that lives sleeps through its first autumn, and has grown nothing.
      def self.check_growth(graft, values)
        return unless values[:alive] && values[:growth_mm].nil? && graft.kind != "bud"

        raise Refused, growth_mm: ["is missing; how long the longest shoot grew this season"]
      end

      def self.check_wound(graft, values)
        a, b = values.values_at(:open_a_mm, :open_b_mm)
        said = Core::Measure.say(graft.stub_mm, graft.orchard.units)
        errors = {}
        errors[:open_a_mm] = ["is wider than the stub was, #{said}"] if a && a > graft.stub_mm * 1.05
        errors[:open_b_mm] = ["give both widths, or neither"] if a.nil? != b.nil?
        errors[:open_b_mm] = ["is measured across the longest width, so it cannot be the larger"] if a && b && b > a
        raise Refused, errors if errors.any?
      end
      private_class_method :season, :check_growth, :check_wound
    end
  end
end
