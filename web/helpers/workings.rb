# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      # Figures with their working, ready to be shown.
      module Workings
        def worked(working) = partial("working", working: working)

        def diameter_working(limb)
          section = Records::CoreInputs.section(limb)
          formula = limb.girth_mm ? "girth #{length(limb.girth_mm)} ÷ π" :
            "√(#{length(limb.wide_mm)} × #{length(limb.narrow_mm)})"
          Working.of(length(section[:diameter_mm]), "#{formula} = #{length(section[:diameter_mm])}")
        end

        def wood_working(limb)
          section = Records::CoreInputs.section(limb)
          Working.of(length(section[:wood_diameter_mm]),
                     "#{length(section[:diameter_mm])} − 2 × #{length(limb.bark_mm)} of bark " \
                     "= #{length(section[:wood_diameter_mm])}")
        end

        def share_working(limb, head)
          diameter = Records::CoreInputs.section(limb)[:diameter_mm]
          branches = limb.children.reject { |each| each.gone_on || each.hidden? }
          carried = branches.any? ? "; #{listed(branches.map(&:tag))} included" : ""
          Working.of(percent(head[:shares][limb.id]),
                     "#{length(diameter)} across, squared, over the sum for the whole head#{carried}",
                     notes: ["Leaf goes with the section of the wood that feeds it."])
        end

        def cut_working(limb, cut, technique)
          section = Records::CoreInputs.section(limb)
          Working.of("#{length(cut[:at_mm])} from the fork",
                     "#{length(section[:diameter_mm])} at the fork, " \
                     "losing #{percent(orchard.rulebook.value('reckoning.cut.taper'))} over " \
                     "#{length(limb.length_mm)}: #{length(cut[:diameter_mm])} thick at #{length(cut[:at_mm])}",
                     rules: ["reckoning.cut.taper", "reckoning.cut.clearance_diameters",
                             "methods.#{technique}.stock_works",
                             ("methods.#{technique}.stock_ideal" if orchard.rulebook.known?("methods." \
                               "#{technique}.stock_ideal")),
                             "site.browse.#{orchard.grazing}"].compact,
                     notes: cut[:limits].map { |limit| say_limit(limit) })
        end

        def place_working(limb, outlook)
          base = Records::CoreInputs.section(limb)[:diameter_mm]
          share = orchard.rulebook.value("reckoning.cut.taper")
          Working.of(length(outlook.stock_mm),
                     "#{length(base)} − #{share} × #{length(base)} × #{length(outlook.at_mm)} " \
                     "÷ #{length(limb.length_mm)} = #{length(outlook.stock_mm)}",
                     rules: ["reckoning.cut.taper"],
                     notes: ["Height: #{length(limb.fork_height_mm)} at the fork + #{length(outlook.at_mm)} × " \
                             "sin #{limb.rise_deg.to_i}° = #{length(outlook.height_mm)}."])
        end

        def vigour_working(plan, season, vigour)
          kept, stubs = plan.kept(season), plan.work.count { |limb| plan.season(limb) == season }
          share = orchard.rulebook.value("reckoning.vigour.stub_share")
          ordinary = Core::Plan::Vigour.contract.field(:ordinary_mm).default
          Working.of(length(vigour[:shoot_mm]),
                     "#{length(ordinary)} ÷ (#{format('%.2f', kept)} kept + #{share} × #{counted(stubs, 'stub')}) " \
                     "= #{length(vigour[:shoot_mm])}",
                     rules: %w[reckoning.vigour.stub_share reckoning.vigour.least_kept reckoning.vigour.most_push
                               reckoning.vigour.long_shoot], notes: vigour[:reasons].map { |reason| say(reason) })
        end

        def cut_range_working(cut)
          Working.of("#{length(cut[:from_mm])} to #{length(cut[:to_mm])}", "where every limit holds",
                     rules: ["site.browse.#{orchard.grazing}", "reckoning.cut.clearance"],
                     notes: cut[:limits].map { |limit| say_limit(limit) })
        end

        def knit_working(graft, care)
          species = graft.limb.tree.species
          Working.of("#{day(care[:knit_on])}#{Sentences::BASES[care[:knit_basis]]}",
                     "#{day(graft.grafted_on)} + #{counted((care[:knit_on] - graft.grafted_on).to_i, 'day')} " \
                     "= #{day(care[:knit_on])}",
                     rules: care[:knit_basis] == "calendar" ? ["species.#{species}.knit_days"] :
                     ["species.#{species}.callus_limits", "species.#{species}.callus_units"])
        end

        def score_working(row)
          parts = ["stock fit #{format('%.2f', row[:stock_trapezoid] || 0)}",
                   ("stick fit #{format('%.2f', row[:scion_trapezoid])}" if row[:scion_trapezoid]),
                   "take #{format('%.2f', row[:expected_take])}", "school #{format('%.1f', row[:school_weight])}"]
                    .compact
          Working.of(row[:score].round.to_s, "100 × #{parts.join(' × ')} = #{format('%.1f', row[:score])}",
                     rules: ["methods.#{row[:method]}.stock_works", "methods.#{row[:method]}.take_factor"],
                     notes: row[:reasons].map { |reason| say(reason) })
        end

        def sticks_working(sticks)
          Working.of(counted(sticks[:count], "stick"), (sticks[:bearings_deg] ||
                                                        sticks[:clock_deg]).map { |deg| "#{deg.round}°" }.join(", "),
                     rules: %w[reckoning.sticks.ring_spacing reckoning.sticks.upright_from],
                     notes: sticks[:reasons].map { |reason| say(reason) }, practice: "sticks")
        end

        def slip_working(species, told, spring)
          if told[:basis] == "calendar"
            return Working.of("By the ordinary dates of the rulebook", "no weather is kept for this spring",
                              rules: ["species.#{species}.slip_opens"])
          end

          Working.of("#{told[:accumulated_dd].round} of #{told[:threshold_dd].round} degree-days " \
                     "above #{orchard.rulebook.value("species.#{species}.slip_base")} °C " \
                     "since #{short_day(spring.biofix)}",
                     "the species' figure, weighed with what was seen here: #{told[:threshold_dd].round}",
                     rules: ["species.#{species}.slip_dd", "species.#{species}.slip_base",
                             "reckoning.slip.first_guess"],
                     notes: ["Each past spring kept here is run on from today, with the forecast first; the dates " \
                             "are when a tenth, half and nine tenths of them get there."])
        end

        def reserve_working(line)
          low, high = line.success
          Working.of(line.reserve.to_s,
                     "enough for the failures of #{percent(orchard.rulebook.value('reckoning.wood.confidence'))} of " \
                     "years, where single sticks " \
                     "take #{low == high ? percent(low) : "#{percent(low)} to #{percent(high)}"}",
                     rules: %w[reckoning.wood.confidence reckoning.wood.cull],
                     notes: [line.trials.zero? ?
                             "By the rulebook's first figures: nothing of this kind was counted here yet." :
                               "By this orchard's own record of #{counted(line.trials, 'stub')}, weighed with the " \
                               "rulebook's first figures."])
        end

        def storage_working(kept)
          age = kept.age
          Working.of(percent(age[:life_left_share]),
                     "the lesser of 1 − #{format('%.1f', age[:equivalent_days])} ÷ #{storage_figure(:life_days)} " \
                     "days of age and 1 − #{age[:warm_degree_hours].round} ÷ #{storage_figure(:life_warm)} " \
                     "degree-hours of warmth",
                     rules: %w[reckoning.storage.q10 reckoning.storage.life_days reckoning.storage.warm_c
                               reckoning.storage.life_warm],
                     notes: ["Measured since #{day(kept.measured_from.to_date)}."])
        end

        def storage_figure(name) = orchard.rulebook.value("reckoning.storage.#{name}")

        def store_working(age)
          Working.of("#{age[:equivalent_days].round} days' ageing",
                     "days × #{storage_figure(:q10)}^((T − #{storage_figure(:at_c)}) ÷ 10), summed over the " \
                     "readings: #{format('%.1f', age[:equivalent_days])} days at #{storage_figure(:at_c)} °C",
                     rules: %w[reckoning.storage.q10 reckoning.storage.at_c reckoning.storage.life_days])
        end

        def girdled_working(told)
          open = told.shape.open_degrees.size
          Working.of(percent(told.share),
                     "bare on #{open} of 360 degrees round, the margins running straight between " \
                     "the #{told.wound.margins.size} readings", rules: %w[reckoning.bridge.advised
                          reckoning.bridge.needed reckoning.bridge.thin])
        end

        def bridge_working(place, told)
          figures = told.figures
          Working.of(length(place[:length_mm]),
                     "#{length(place[:gap_mm])} × (1 + 8/3 × #{figures[:bow]}²) + 2 × #{length(figures[:seat_mm])} " \
                     "= #{length(place[:length_mm])}", rules: %w[reckoning.bridge.spacing reckoning.bridge.seat
                         reckoning.bridge.bow])
        end

        def carried_working(told)
          Working.of(percent(told.carried),
                     "the part of the bare girth within half of #{length(told.figures[:spacing_mm])} of a living " \
                     "scion: #{counted(told.living.size, 'scion')} of #{told.wound.seated.size}",
                     rules: %w[reckoning.bridge.spacing reckoning.bridge.alive_share])
        end

        def wind_working(told)
          wind = told.wind
          Working.of(length(wind[:safe_length_mm]),
                     "#{format('%.1f', wind[:strength_mpa])} MPa × π × (#{thickness(told.base_mm)})³ ÷ 32 " \
                     "= #{format('%.2f', wind[:resisting_nm])} N m at the union, #{told.weeks.round} weeks old and " \
                     "held by #{percent(told.hold)}; that " \
                     "over #{orchard.rulebook.value('reckoning.union.wind_safety')} against the wind on a leafy shoot",
                     rules: %w[reckoning.union.strength reckoning.union.weeks reckoning.union.bark_hold
                               reckoning.union.drag reckoning.union.wind_safety reckoning.union.thickens
                               reckoning.union.thickens_until])
        end

        def fruit_working(told)
          fruit = told.fruit
          Working.of(fruit[:fruits].zero? ? "none" : fruit[:fruits].to_s,
                     "#{format('%.2f', fruit[:resisting_nm])} N m " \
                     "÷ #{orchard.rulebook.value('reckoning.union.fruit_safety')}, over the weight of a " \
                     "fruit #{length(orchard.rulebook.value('reckoning.union.lever'))} out: #{fruit[:could_carry]}; " \
                     "none for #{counted(told.none_for, 'season')} by the practice",
                     rules: %w[reckoning.union.fruit_safety reckoning.union.lever])
        end

        def closure_working(graft)
          closure = Records::CoreInputs.closure(graft)
          last = graft.tallies.select(&:open_a_mm).last
          formula = last ? "1 − #{length(last.open_a_mm)} × #{length(last.open_b_mm)} ÷ (#{length(graft.stub_mm)})²" :
            "nothing measured yet"
          ending = closure[:closes_in_season] &&
            "; shut in season #{closure[:closes_in_season]} at #{format('%.1f', closure[:rate_mm])} mm a season " \
            "from each side"
          Working.of(percent(closure[:closed_share]), "#{formula} = #{percent(closure[:closed_share])}#{ending}",
                     rules: ["reckoning.closure.rate"])
        end
      end
    end
  end
end
