# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # Why a method suits a limb or not, and how its sticks are set.
      module MethodReasons
        def say_stock_ideal(r) = "#{length(r[:mm])} is in the best range, #{range(r)}."
        def say_stock_workable(r) = apart(r) { |mm, range| "#{mm} is workable; best from #{range}." }
        def say_stock_outside(r) = apart(r) { |mm, range| "#{mm} is outside what it works, #{range}." }

        def say_scion_ideal(r) = "A stick of #{length(r[:mm])} is in the best range, #{range(r)}."
        def say_scion_workable(r) = apart(r) { |mm, range| "A stick of #{mm} is workable; best from #{range}." }
        def say_scion_outside(r) = apart(r) { |mm, range| "A stick of #{mm} is outside what it works, #{range}." }
        def say_scion_wanted(r) = "Wants sticks of #{range(r)}."

        PLACES = { "end" => "the end of a stub", "side" => "the side of what stays",
                   "shoot" => "a young shoot" }.freeze
        def say_other_place(r)
          "It is made elsewhere, and not at #{PLACES.fetch(r[:place])}."
        end
        def say_no_donor(_) = "It needs a rooted plant of the variety beside it, and none is written down."
        def say_scion_one_side(r)
          "A stick of #{length(r[:mm])} on #{length(r[:stock_mm])}: set it to one side, so that bark meets bark there."
        end

        def say_needs_slip(_) = "Needs slipping bark, and it does not slip."
        def say_needs_no_slip(_) = "Needs no slipping bark."

        def say_expected_take(r)
          "#{percent(r[:take])} of single sticks take on #{species_name(r[:species]).downcase}, in good conditions."
        end

        def say_own_take(r)
          "Here #{r[:takes]} of #{counted(r[:trials], 'stub')} took with methods like it, so #{percent(r[:take])} " \
          "are " \
          "reckoned with."
        end
        def say_own_others(r)
          "Nobody tried it here. What was tried took #{format('%.2f', r[:ratio])} times as often as the book says, " \
          "so #{percent(r[:take])} are reckoned with."
        end

        def say_school_prefers(r) = "The #{school_name(r[:school])} school prefers it."
        def say_school_other(r) = "Not a habit of the #{school_name(r[:school])} school."

        def say_sticks_single(_) = "One stick on the best face."
        def say_sticks_pair(r)
          r[:count] == 2 ? "A pair: there is room for two on #{length(r[:wood_mm])} of wood." :
            "One: #{length(r[:wood_mm])} of wood has no room for a pair."
        end
        def say_sticks_ring(r)
          return "One stick, for there is room for no more." if r[:count] == 1

          "A ring of #{r[:count]}: one to each hand's breadth round #{length(r[:wood_mm])} of wood."
        end

        def say_faces_upright(r)
          parts = []
          parts << "the flat face at #{r[:flat_deg].round}°" if r[:flat_deg]
          parts << "the wind from #{r[:wind_from_deg].round}°" if r[:wind_from_deg]
          parts.empty? ? "Nothing tells one face from another, so the first stands to the north." :
            "The first stands at #{r[:first_deg].round}° for #{listed(parts)}."
        end

        def say_faces_leaning(r)
          "The limb leans (#{r[:rise_deg].round}°), so the sticks sit about its upper side" \
            "#{", turned #{r[:turn_deg].abs.round}° to its flat face at #{r[:flat_deg].round}°" if r[:flat_deg]}."
        end

        def say_flaps_bare(r)
          "The flaps cover only #{percent(r[:covered])} of the faces: take a thinner stick, or cut lower where the " \
          "limb is thicker."
        end
        def say_flaps_not_wood(r)
          "Shaving #{thin(r[:depth_mm])} does not reach wood: leave a narrower strip between the faces."
        end
        def say_flaps_no_face(r)
          "A stick of #{thickness(r[:scion_mm])} is too thin to leave strips of #{thickness(r[:strip_mm])} between " \
          "faces."
        end

        # A method that needs no slip, and what changes with it.
        def say_instead(row)
          wanted = row[:scion_wanted_mm]
          "#{method_name(row[:method]).downcase}, dormant or " \
          "awake#{wanted ? ", with sticks of #{thickness(wanted[0])} to #{thickness(wanted[1])}" : ''}; " \
          "#{percent(row[:expected_take])} of single sticks take"
        end

        private

        def range(reason) = from_to(*reason.values_at(:from_mm, :to_mm).map { |mm| mm && length(mm) })
        def from_to(from, to) = to ? "#{from} to #{to}" : "#{from} up"

        # A length that is beyond a range, and the range, so that they read apart.
        def apart(reason)
          mm, *ends = Core::Apart.say(reason[:mm], reason.values_at(:from_mm, :to_mm), orchard.units)
          yield mm, from_to(*ends)
        end
      end
    end
  end
end
