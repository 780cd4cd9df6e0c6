# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # Leaving a tree as it is, regrafting it or replanting it, over fifteen years, by what each crop is worth.
      module Worth
        extend Reckoning

        contract "worth", "Leaving a tree, regrafting it or replanting it, compared over the years" do
          number :old_worth, least: 0, most: 1, help: "of a full crop that it bears now"
          number :new_worth, least: 0, most: 1, help: "of a full crop of what it is to bear"
          list :regraft, longest: 60, help: "the plan's seasons, as the projection answers" do
            number :old, least: 0, help: "share of the head that is still the old one"
            number :crop, least: 0, help: "share of a full crop, old and new together"
            number :hours, least: 0, default: 0.0
          end
          flag :nut, default: false
        end

        # A year is worth the shares of a full crop that it bears, each times the worth of its kind: what stands of the
        # old head bears fully, and the rest of the crop is the new one's. Past the plan's last season its last goes on.
        # A planted tree bears by reckoning.replant.bearing, a nut tree some seasons later. Regrafting is ahead from the
        # first year in which all its years together are worth more than those of the tree left as it is.
        #
        # @return [Hash] +ways+ (leave, regraft, replant), each +years+ (worth by year), +worth+ (their sum) and
        #   +hours+; +best+, the way of most worth; and +ahead_from+, the first year from 1 in which regrafting has been
        #   worth more than leaving it, or nil
        # @raise [BadInput] without a season
        def self.call(old_worth:, new_worth:, regraft:, nut: false, rulebook: Rulebook.shipped)
          raise BadInput.new("regraft", "at least one season") if regraft.empty?

          years = rulebook.value("reckoning.replant.years")
          ways = { "leave" => way([old_worth] * years, 0.0),
                   "regraft" => way(regrafted(regraft, years, old_worth, new_worth), regraft.sum { |row| row[:hours] }),
                   "replant" => way(replanted(years, new_worth, nut, rulebook),
                                    rulebook.value("reckoning.replant.hours").to_f) }
          { ways: ways, best: ways.max_by { |_, each| each[:worth] }.first, ahead_from: ahead(ways) }
        end

        def self.way(years, hours) = { years: years, worth: years.sum, hours: hours }

        def self.regrafted(rows, years, old_worth, new_worth)
          (0...years).map do |year|
            row = rows[[year, rows.size - 1].min]
            row[:old] * old_worth + [row[:crop] - row[:old], 0.0].max * new_worth
          end
        end

        def self.replanted(years, new_worth, nut, rulebook)
          bearing = rulebook.value("reckoning.replant.bearing")
          later = nut ? rulebook.value("reckoning.replant.nut_later") : 0
          (0...years).map { |year| Projection.at(bearing, year - later) * new_worth }
        end

        def self.ahead(ways)
          left = grafted = 0.0
          ways["leave"][:years].zip(ways["regraft"][:years]).each.with_index(1) do |(one, other), year|
            left += one
            grafted += other
            return year if grafted > left + Near::TOLERANCE
          end
          nil
        end
        private_class_method :way, :regrafted, :replanted, :ahead
      end
    end
  end
end
