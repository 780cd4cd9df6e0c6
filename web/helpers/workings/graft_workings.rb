# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      module Workings
        # Workings of a graft: how it knits, grows, closes and carries.
        module GraftWorkings
          def knit_working(graft, care)
            species = graft.limb.tree.species
            Working.of("#{day(care[:knit_on])}#{Sentences::BASES[care[:knit_basis]]}",
                       "#{day(graft.grafted_on)} + #{counted((care[:knit_on] - graft.grafted_on).to_i, 'day')} " \
                       "= #{day(care[:knit_on])}",
                       rules: care[:knit_basis] == "calendar" ? ["species.#{species}.knit_days"] :
                       ["species.#{species}.callus_limits", "species.#{species}.callus_units"])
          end

          # As exactly as what is cubed has to be said.
          def cubed(mm)
            orchard.units == "imperial" ? format("%.3f in", mm / Core::Measure::INCH) : format("%.1f mm", mm)
          end

          def wind_working(told)
            wind = told.wind
            Working.of(safe_length(wind[:safe_length_mm]),
                       "#{format('%.1f', wind[:strength_mpa])} MPa × π × (#{cubed(told.base_mm)})³ ÷ 32 " \
                       "= #{format('%.2f', wind[:resisting_nm])} N m at the union, #{told.weeks.round} weeks old and " \
                       "held by #{percent(told.hold)}; that " \
                       "over #{orchard.rulebook.value('reckoning.union.wind_safety')} against the wind on a leafy " \
                       "shoot",
                       rules: %w[reckoning.union.strength reckoning.union.weeks reckoning.union.bark_hold
                                 reckoning.union.drag reckoning.union.wind_safety reckoning.union.thickens
                                 reckoning.union.thickens_until])
          end

          def fruit_working(told)
            fruit = told.fruit
            Working.of(fruit[:fruits].zero? ? "none" : fruit[:fruits].to_s,
                       "#{format('%.2f', fruit[:resisting_nm])} N m " \
                       "÷ #{orchard.rulebook.value('reckoning.union.fruit_safety')}, over the weight of a " \
                       "fruit #{length(orchard.rulebook.value('reckoning.union.lever'))} " \
                       "out: #{fruit[:could_carry]}; " \
                       "none for #{counted(told.none_for, 'season')} by the practice",
                       rules: %w[reckoning.union.fruit_safety reckoning.union.lever])
          end

          def closure_working(graft)
            closure = Records::CoreInputs.closure(graft)
            last = graft.tallies.select(&:open_a_mm).last
            formula = last ? "1 − #{length(last.open_a_mm)} × #{length(last.open_b_mm)} ÷ (#{length(graft.stub_mm)})²" :
              "nothing measured yet"
            ending = closure[:closes_in_season] &&
              "; shut in season #{closure[:closes_in_season]} at #{closing_rate(closure[:rate_mm])} a season from " \
              "each side"
            Working.of(percent(closure[:closed_share]), "#{formula} = #{percent(closure[:closed_share])}#{ending}",
                       rules: ["reckoning.closure.fed"])
          end

          # Too small to be said in eighths of an inch.
          def closing_rate(mm)
            orchard.units == "imperial" ? format("%.2f in", mm / Core::Measure::INCH) : format("%.1f mm", mm)
          end
        end
      end
    end
  end
end
