# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      module Workings
        # Workings of a cut, a plan and a method.
        module PlanWorkings
          def cut_working(limb, cut, technique)
            measured = Records::CoreInputs.outer(limb)
            Working.of("#{length(cut[:at_mm])} from the fork",
                       "#{taper_words(limb, measured)}: #{length(cut[:diameter_mm])} thick at #{length(cut[:at_mm])}",
                       rules: [("reckoning.cut.taper" unless measured), "reckoning.cut.clearance_diameters",
                               "methods.#{technique}.stock_works",
                               ("methods.#{technique}.stock_ideal" if orchard.rulebook.known?("methods." \
                                 "#{technique}.stock_ideal")),
                               "site.browse.#{orchard.grazing}"].compact,
                       notes: cut[:limits].map { |limit| say_limit(limit) })
          end

          # How a limb loses its thickness: by what was measured further out, else as limbs do.
          def taper_words(limb, measured)
            "#{length(Records::CoreInputs.section(limb)[:diameter_mm])} at the fork, " +
              (measured ? "#{length(measured[:diameter_mm])} measured at #{length(measured[:at_mm])}" :
                "losing #{percent(orchard.rulebook.value('reckoning.cut.taper'))} over #{length(limb.grown_mm)}")
          end

          def vigour_working(plan, season, vigour)
            stubs = plan.work.count { |limb| plan.season(limb) == season }
            Working.of(about_length(vigour[:shoot_mm]),
                       "#{length(plan.ordinary_mm)} #{push_words(plan.kept(season), stubs)} = " \
                       "#{length(vigour[:shoot_mm])}",
                       rules: %w[reckoning.vigour.stub_share reckoning.vigour.least_kept reckoning.vigour.most_push
                                 reckoning.vigour.long_shoot], notes: vigour[:reasons].map { |reason| say(reason) })
          end

          # By what an ordinary shoot is pushed: the roots fed the whole head, and feed what is left.
          def push_words(kept, stubs)
            share, least, most = %w[stub_share least_kept most_push].map do |name|
              orchard.rulebook.value("reckoning.vigour.#{name}")
            end
            fed = "#{format('%.2f', kept)} kept + #{share} × #{counted(stubs, 'stub')}"
            case Core::Plan::Vigour.bound(kept, stubs, orchard.rulebook)
            when "most" then "× #{most}, the most, for 1 ÷ (#{fed}) is more"
            when "least" then "÷ #{least}, the least, for #{fed} is less"
            else "÷ (#{fed})"
            end
          end

          def cut_range_working(cut)
            Working.of("#{length(cut[:from_mm])} to #{length(cut[:to_mm])}", "where every limit holds",
                       rules: ["site.browse.#{orchard.grazing}", "reckoning.cut.clearance"],
                       notes: cut[:limits].map { |limit| say_limit(limit) })
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

          # @param school [String] of the tree
          def sticks_working(sticks, school)
            places = (sticks[:bearings_deg] || sticks[:clock_deg]).map { |deg| sits(deg, sticks.key?(:bearings_deg)) }
            Working.of(counted(sticks[:count], "stick"), "Set #{places.join('; ')}.",
                       rules: %w[reckoning.sticks.ring_spacing reckoning.sticks.upright_from],
                       notes: sticks[:reasons].map { |reason| say(reason) }, practice: "sticks", school: school)
          end
        end
      end
    end
  end
end
