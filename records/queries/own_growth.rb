# frozen_string_literal: true

module Vestry
  module Records
    # How fast grafts here grow back what was cut, learned from the autumn counts and weighed with the
    # rulebook's first figures: by age in seasons, each graft's own wood against its stub's section.
    module OwnGrowth
      module_function

      # @return [Array<Float>] as reckoning.projection.regrow
      def curve(orchard)
        first = orchard.rulebook.value("reckoning.projection.regrow")
        Core::Tally::Growth.learned(first, seen(orchard), orchard.rulebook)
      end

      # The orchard's rulebook with what it learned laid over it, where its steward has not.
      def rulebook(orchard)
        return orchard.rulebook if orchard.rulebook.overrides.key?("reckoning.projection.regrow")

        orchard.rulebook.then do |book|
          Core::Rulebook.shipped
            .overruled(book.overrides.merge("reckoning.projection.regrow" => { "value" => curve(orchard),
              "why" => "Learned from the autumn counts here.", "who" => "the counts" }))
        end
      end

      # The latest counts of living grafts.
      def counts(orchard)
        DB[:tallies].join(:grafts, id: :graft_id).where(Sequel[:tallies][:orchard_id] => orchard.id,
                                                        Sequel[:tallies][:hidden_at] => nil,
                                                        Sequel[:grafts][:hidden_at] => nil, alive: true)
                                                            .exclude(above_mm: nil)
                    .order(Sequel.desc(Sequel[:tallies][:season]), Sequel.desc(Sequel[:tallies][:id])).limit(1500)
      end

      # Shares by age in seasons.
      def seen(orchard)
        rows = counts(orchard).select_map([Sequel[:tallies][:season], :tallied_on, :grafted_on,
                                           *%i[above_mm stub_mm].map { |name| Sequel.cast(name, Float).as(name) },
                                           :sticks_alive])
        grown = rows.reject { |year, day, *| Tally.early?(orchard, year, day) }
        grown.group_by { |year, _, on, *| year - orchard.season.name_of(on) }.transform_values do |all|
          all.map { |*, above, stub, sticks| Core::Tally::Scaffold.grown_back(above, stub, sticks) }
        end
      end
      private_class_method :counts, :seen
    end
  end
end
