# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # How wood was kept, and what would serve a stub that has none.
      module WoodReasons
        def say_storage_frozen(r)
          "It froze (#{warmth(r[:celsius])}): cut into a stick and look for brown before it is used."
        end
        def say_storage_spent(_) = "Its life is spent: throw it out, or test every stick."
        def say_storage_use_first(r) = "#{percent(r[:left])} of its life is left: use it soon."
        def say_storage_too_warm(r)
          "It is too warm now (#{warmth(r[:celsius])}): move it where it is just above freezing."
        end
        def say_storage_was_warm(r)
          "It was warm for a while (#{degree_hours(r[:hours])}): look whether buds swell."
        end
        def say_storage_unmeasured(r)
          "Nobody measured its first #{counted((r[:hours] / 24).round, 'day')}: it is taken to have lain just above " \
          "freezing until then."
        end

        def say_storage_silent(r)
          "No reading for #{counted((r[:hours] / 24).round, 'day')}: it is taken to have lain at " \
            "#{warmth(r[:celsius])} since."
        end

        def say_storage_gap(r) = "#{r[:hours].round} hours without a reading: what happened then is not known."

        def say_wood_unmeasured(r)
          "No thermometer tells how it was kept; just above freezing it keeps until #{day(r[:until])}."
        end
        def say_wood_outlived(r)
          "It was cut #{r[:kept]} days ago, and even just above freezing such wood keeps #{r[:days]}: cut into every " \
            "stick before it is set."
        end
        def say_wood_mould(r)
          "Mould was found on #{day(r[:on])}: wipe, dry off, pack drier, and throw out what is soft."
        end
        def say_wood_shrivelled(r) = "It was shrivelled on #{day(r[:on])}: wrap it damper, trim the ends, use it first."
        def say_wood_swelling(r) = "Buds were swelling on #{day(r[:on])}: graft at once, or it is lost."
        def say_wood_frozen(r) = "It was frozen on #{day(r[:on])}: test before it is used."

        # What the wood of a variety is wanted for.
        #
        # @param line [Records::WoodSupply::Line]
        def wood_wanted_for(line)
          of = { "stubs" => line.count, "bare stretches" => line.for_sites }.select { |_, count| count.positive? }
          "its #{of.keys.join(' and ')}"
        end

        # How wood that is short can be made to do.
        #
        # @param shortage [Hash] see Core::Plan::Shortage
        def say_stretched(shortage)
          sticks = shortage[shortage[:enough]&.to_sym]
          case shortage[:enough]
          when "thin" then "One stick a stub instead of several saves #{sticks}."
          when "short_sticks" then "Cut to two buds, the wood gives #{counted(sticks, 'stick')}."
          when "one_bud"
            long = length(orchard.rulebook.value("reckoning.wood.one_bud"))
            "Cut to one bud, each about #{long} long, the wood gives #{counted(sticks, 'stick')}."
          when "single_buds" then "Worked as single buds, it serves #{counted(sticks, 'place')}."
          else "Nothing stretches it far enough: find more, or drop stubs."
          end
        end

        # A scarce variety as a plan of two seasons.
        def say_multiplied(more, season)
          "Or multiply it: cut what is here to #{counted(more[:pieces], 'piece')} of one bud, set them on strong " \
            "limbs this spring, and cut about #{counted(more[:seasons].first, 'stick')} of their shoots next winter" \
            "#{"; enough in #{season + more[:enough_in]}" if more[:enough_in]}."
        end

        def say_wood_cut_green(r) = "Cut into on #{day(r[:on])}: green and moist, so it lives."
        def say_wood_cut_dull(r)
          "Cut into on #{day(r[:on])}: dull under the bark. Use it first, and force a few sticks to be sure."
        end
        def say_wood_cut_brown(r)
          "Cut into on #{day(r[:on])}: brown under the bark, which is dead. Cut into others before any is set."
        end
        def say_wood_forced_none(r)
          "None of #{r[:forced]} forced sticks had moved on #{day(r[:on])}: take it as dead unless another lot moves."
        end
        def say_wood_withered(r)
          "Leafy wood keeps #{counted(r[:days].round, 'day')} at most, and this was cut #{r[:kept]} days ago: " \
          "take it as dead, and cut fresh wood on the day of grafting."
        end
        def say_wood_forced_some(r)
          "#{r[:moved]} of #{r[:forced]} forced sticks moved by #{day(r[:on])}: some #{percent(r[:live])} may live. " \
          "Set more sticks a stub, or other wood."
        end
        def say_wood_forced_all(r)
          "#{all_of(r[:forced], 'forced stick')} moved by #{day(r[:on])}: it lives."
        end
        def say_wood_dried_well(r) = "It lost #{percent(r[:lost])} of its weight: it is moist enough."
        def say_wood_dried_use(r) = "It lost #{percent(r[:lost])} of its weight: use it now, and pack it damper."
        def say_wood_dried_doubt(r)
          "It lost #{percent(r[:lost])} of its weight: few buds wake from that. Force three before any is set."
        end

        def say_match_cut_elsewhere(r)
          "Cut at #{length(r[:at_mm])}, where the limb is #{thickness(r[:stock_mm])}: #{r[:stick]} " \
          "(#{thickness(r[:diameter_mm])}) fits there."
        end
        def say_match_other_method(r)
          "By #{method_name(r[:method]).downcase}, #{r[:stick]} (#{thickness(r[:diameter_mm])}) would do."
        end
        def say_match_fewer(r)
          "Set #{counted(r[:sticks], 'stick')} alone: the stub closes more slowly, and there is less to fall back on."
        end
        # Of wood that is missing and can still be had.
        #
        # @param supply [Records::WoodSupply]
        def say_wood_to_come(supply, variety)
          supply.leafy?(variety) ? "Its leafy wood is cut on the day of grafting." :
            "Its wood is still to be cut or ordered, by #{day(supply.cut_until(variety))}."
        end

        def say_match_more_wood(r) = "Find #{counted(r[:sticks], 'stick')} more."
        def say_match_other_variety(r) = "#{r[:variety]} has wood over (#{r[:stick]}) and lives on this stock."
      end
    end
  end
end
