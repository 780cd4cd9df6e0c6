# frozen_string_literal: true

module Vestry
  module Web
    module Helpers
      module Workings
        # Workings of a limb and its tree.
        module TreeWorkings
          def diameter_working(limb)
            section = Records::CoreInputs.section(limb)
            formula = limb.girth_mm ? "girth #{length(limb.girth_mm)} ÷ π" :
              "√(#{length(limb.wide_mm)} × #{length(limb.narrow_mm)})"
            Working.of(length(section[:diameter_mm]), "#{formula} = #{length(section[:diameter_mm])}")
          end

          def wood_working(limb)
            section = Records::CoreInputs.section(limb)
            bark = length(Records::CoreInputs.bark(limb, limb.across_mm))
            Working.of(length(section[:wood_diameter_mm]),
                       "#{length(section[:diameter_mm])} − 2 × #{bark} of bark" \
                       "#{' (not measured: by its size and kind)' unless limb.bark_mm} " \
                       "= #{length(section[:wood_diameter_mm])}")
          end

          def share_working(limb, head)
            diameter = Records::CoreInputs.section(limb)[:diameter_mm]
            branches = limb.standing_children
            carried = branches.any? ? "; #{listed(branches.map(&:tag))} included" : ""
            Working.of(percent(head[:shares][limb.id]),
                       "#{length(diameter)} across, squared, over the sum for the whole head#{carried}",
                       notes: ["Leaf goes with the section of the wood that feeds it."])
          end

          # How thick a limb is at its place, worked out.
          def tapered(limb, outlook, measured)
            base = length(Records::CoreInputs.section(limb)[:diameter_mm])
            lost, over = measured ? ["(#{base} − #{length(measured[:diameter_mm])})", measured[:at_mm]] :
              ["#{orchard.rulebook.value('reckoning.cut.taper')} × #{base}", limb.grown_mm]
            "#{base} − #{lost} × #{length(outlook.at_mm)} ÷ #{length(over)} = #{length(outlook.stock_mm)}"
          end

          def place_working(limb, outlook)
            measured = Records::CoreInputs.outer(limb)
            Working.of(length(outlook.stock_mm), tapered(limb, outlook, measured),
                       rules: (["reckoning.cut.taper"] unless measured).to_a,
                       notes: ["Height: #{length(limb.fork_height_mm)} at the fork + #{length(outlook.at_mm)} × " \
                               "sin #{limb.rise_deg.to_i}° = #{length(outlook.height_mm)}."])
          end
        end
      end
    end
  end
end
