# frozen_string_literal: true

module Vestry
  module Web
    module Sentences
      # What was right and wrong with an answer to an exercise.
      module PracticeReasons
        BUDS_SEEN = { "swelling" => "moving", "asleep" => "still asleep", "leafing" => "in leaf" }.freeze
        SPRINGS = { 1 => "first", 2 => "second", 3 => "third" }.freeze
        private_constant :BUDS_SEEN, :SPRINGS

        # How likely a graft lives, and what another look would make of that.
        def say_answer_odds(r)
          "By what was seen it lives with a likelihood of #{percent(r[:alive])}. Seen on #{day(r[:on])}, " \
            "#{BUDS_SEEN.fetch(r[:better])} it would be #{percent(r[:if_better])}" \
            "#{", #{BUDS_SEEN.fetch(r[:worse])} #{percent(r[:if_worse])}" if r[:worse]}."
        end

        def say_practice_green(r)
          "Face #{r[:face]} lies on bark, #{format('%.1f', r[:short_mm])} mm short: bark does not knit to wood."
        end
        def say_practice_strip_wide(r)
          "Between faces #{r[:face]} and #{r[:other]}, #{format('%.1f', r[:strip_mm])} mm of bark are left: the " \
            "flaps will gape there."
        end
        def say_practice_strip_narrow(r)
          return "Faces #{r[:face]} and #{r[:other]} run into each other: no bark is left." if r[:strip_mm] <= 0

          "Between faces #{r[:face]} and #{r[:other]}, #{format('%.1f', r[:strip_mm])} mm of bark are left: it tears."
        end
        def say_practice_bare(r)
          "The flap covers #{percent(r[:covered])} of face #{r[:face]}: it is wider than the flap."
        end
        def say_practice_all_white(r) = "#{counted(r[:faces], 'face')}, all white, a thread of bark at each corner."

        def say_practice_upside_down(r)
          return "Stick #{r[:sticks].first} was left or turned wrongly." if r[:sticks].one?

          "Sticks #{listed(r[:sticks].map(&:to_s))} were left or turned wrongly."
        end
        def say_practice_slow(r) = "It took #{r[:seconds].round} seconds of #{r[:most]}: the wood dries meanwhile."
        def say_practice_all_up(r) = "#{counted(r[:sticks], 'stick')}, all the right way up."

        def say_practice_place_clearance(_) = "It is too near to the fork: the stub takes its life from there."
        def say_practice_place_diameter(_) = "The limb is not as thick there as the method works."
        def say_practice_place_browse(_) = "What grazes reaches the sticks there."
        def say_practice_place_reach(_) = "You do not reach it from the ground."
        def say_practice_place_nurse(_) = "It takes off the nurse that is to stay."
        def say_practice_place_branches(_) = "It lies in the swelling of a fork."
        def say_practice_place_unsound(_) = "The wood is sick there."
        def say_practice_top_first(_) = "Cut from above first, the limb tears a strip of bark down the stub."
        def say_practice_torn_trim(r) = "A tear of #{length(r[:mm])} is pared off with the rim: no need to cut again."
        def say_practice_torn_again(r) = "A tear of #{length(r[:mm])} is too long to pare: cut again below it."
        def say_practice_cut_well(r) = "#{length(r[:at_mm])} from the fork is where it is best."

        def say_practice_hand_in_the_way(_) = "The hand is where the blade goes when it slips."
        def say_practice_hand_holds_nothing(_) = "The hand does not hold the stick."
        def say_practice_hand_too_far(_) = "So far off the stick gives way under the blade."
        def say_practice_hand_safe(_) = "The blade can slip, and meets nobody."

        def say_practice_face_wavy(r) = "The face rocks: #{percent(r[:share])} of it lies flat."
        def say_practice_face_length(r)
          "It is #{length(r[:mm])} long, where #{in_own_units("#{r[:from_mm]} to #{r[:to_mm]} mm")} are wanted."
        end
        def say_practice_face_shallow(r)
          "At its thin end #{format('%.1f', r[:mm])} mm more have to go: half of the stick."
        end
        def say_practice_face_deep(r) = "At its thin end #{format('%.1f', r[:mm])} mm too much are gone: it breaks."
        def say_practice_face_bud_cut(_) = "The lowest bud stands on the side that is cut."
        def say_practice_face_bud_far(r) = "The lowest bud stands #{length(r[:mm])} above its thin end."
        def say_practice_face_true(_) = "Flat from end to end, and a bud opposite."

        def say_practice_bridge_upside_down(r)
          return "Scion #{r[:scions].first} stands upside down: it dies." if r[:scions].one?

          "Scions #{listed(r[:scions].map(&:to_s))} stand upside down: they die."
        end
        def say_practice_bridge_dead(r)
          "The margins are trimmed #{r[:mm].round} mm too little: dead bark carries nothing across."
        end
        def say_practice_bridge_cut_away(r) = "#{r[:mm].round} mm of sound bark are cut away with what is dead."
        def say_practice_bridge_short(r) = "Scion #{r[:scion]} is #{r[:mm].round} mm too short: it does not seat."
        def say_practice_bridge_long(r) = "Scion #{r[:scion]} is #{r[:mm].round} mm too long: it bows off the trunk."
        def say_practice_bridge_uneven(_) = "They stand unevenly: what lies between the widest two starves."
        def say_practice_bridged(_) = "Evenly round, well seated, every bud upwards."

        def say_practice_in_order(_) = "That is their order."
        def say_practice_too_early(r) = "Step #{r[:step]} comes before step #{r[:before]}, and not the other way round."
        def say_practice_clock_starts(r)
          "The clock starts with step #{r[:step]}: from then on the stick's face lies bare and dries."
        end
        def say_practice_clock_stops(r) = "It stops with step #{r[:step]}, when the faces are bound and shut."
        def say_practice_crowded(r) = "They stand closer than #{r[:apart_deg]}°: the rest of the rim dies."
        def say_practice_leeward(_) = "None stands to windward, where the wind presses it against the stub."
        def say_practice_gap(r)
          "Stick #{r[:stick]} stands off by #{format('%.1f', r[:gap_mm])} mm, where #{format('%.1f', r[:best_mm])} " \
            "mm can be had."
        end
        def say_practice_seated(_) = "They lie as flat as this rim lets them."
        READ = { "leave" => "leave it", "open" => "open it on one side and look", "slit" => "slit the tape",
                 "rewrap" => "wrap it anew", "regraft" => "graft it again" }.freeze
        private_constant :READ
        def say_practice_read_well(r)
          "With what can be seen that is best: by it the graft lives with a likelihood of #{percent(r[:alive])}."
        end
        def say_practice_read_better(r)
          "Better: #{READ.fetch(r[:best])}. By what can be seen it lives with a likelihood of #{percent(r[:alive])}."
        end

        def say_practice_seat_below(r)
          "The face stands #{format('%.1f', r[:mm])} mm below the rim: a pocket is left that holds water."
        end
        def say_practice_seat_forced(r)
          "It was pushed #{format('%.1f', r[:mm])} mm further than the bark was opened: the bark is torn off there."
        end
        def say_practice_seat_deep(r)
          "Only #{format('%.1f', r[:mm])} mm of the face show: nothing is left to knit over the rim."
        end
        def say_practice_seat_high(r)
          "#{format('%.1f', r[:mm])} mm of the face stand above the rim: they dry, and hold nothing."
        end
        def say_practice_seat_well(r) = "#{format('%.1f', r[:mm])} mm show: it sits as it should."

        def say_practice_line_full(_) = "Cambium lies on cambium along the face."
        def say_practice_line_crosses(r)
          "The lines only cross: #{r[:met_mm].round} of #{r[:of_mm]} mm meet."
        end
        def say_practice_line_flush(r)
          "Flush at the outside, the lines lie #{format('%.1f', r[:off_mm])} mm apart: nothing meets."
        end
        def say_practice_line_off(r) = "The lines lie #{format('%.1f', r[:off_mm])} mm apart: nothing meets."

        PLACES = { "tip" => "the cut tip", "slit" => "the slit under the stick", "rim" => "the rim",
                   "shoulder" => "the shoulder", "split" => "the split in the bark", "bud" => "a bud",
                   "scar" => "an old scar", "lenticel" => "a pore" }.freeze
        private_constant :PLACES

        def say_practice_seal_face(r)
          "Wax at #{listed(r[:places].map(&:to_s))} runs in between stick and wood, where nothing knits through it."
        end
        def say_practice_seal_missed(r) = "Place #{r[:place]}, #{PLACES.fetch(r[:is])}, is open: it dries from there."
        def say_practice_seal_needless(r) = "Place #{r[:place]} is #{PLACES.fetch(r[:is])}: it needs no wax."
        def say_practice_seal_tight(_) = "Every opening is closed, and nothing else."

        def say_practice_too_much(r)
          "In the #{SPRINGS.fetch(r[:spring])} spring #{percent(r[:share])} of the head goes, where roots bear " \
            "#{percent(r[:cap])}: the tree starves."
        end
        def say_practice_no_wood(r)
          "By the #{SPRINGS.fetch(r[:spring])} spring #{counted_are(r[:wanted], 'stick')} planned, and there are " \
            "#{r[:have]}."
        end
        def say_practice_no_braces(r) = "#{counted_are(r[:wanted], 'limb')} tied, and there are ties for #{r[:have]}."
        def say_practice_nurse_early(r)
          "The nurse goes in year #{r[:year]}: before year #{r[:from]} the grafts do not carry " \
            "#{percent(r[:kept])} of the head, and the roots starve."
        end
        def say_practice_nurse_late(r)
          "The nurse stands #{counted(r[:years], 'year')} longer than it has to, and shades the grafts."
        end
        def say_practice_other_spring(r)
          "Limb #{r[:limb]} in the #{SPRINGS.fetch(r[:best])} spring, not the #{SPRINGS.fetch(r[:mine])}: " \
            "#{of_a_crop(r[:share])} more."
        end
        def say_practice_other_sticks(r)
          "#{counted(r[:best], 'stick')} on limb #{r[:limb]} instead of #{r[:mine]}: #{of_a_crop(r[:share])} more."
        end
        def say_practice_other_brace(r)
          "Limb #{r[:limb]} #{r[:best] ? 'tied' : 'left untied'}: #{of_a_crop(r[:share])} more."
        end
        def say_practice_planned_well(_) = "No other choice for one limb would have been worth more."
        def of_a_crop(share) = "#{format('%.1f', share * 100)} % of a full crop a year"

        def say_practice_cut_scion(r) = "Shoot #{r[:shoot]} grew from a stick. It was the graft."
        def say_practice_cut_nurse(r) = "Shoot #{r[:shoot]} is the nurse's: it feeds the roots until the grafts do."
        def say_practice_overrun(r) = "The blade ran on into shoot #{r[:shoot]}: cut lower, away from what stays."
        def say_practice_missed(r) = "Shoot #{r[:shoot]} grows from the stock below the cut, and was left."
        def say_practice_left_stub(r) = "Shoot #{r[:shoot]} was cut high: two grow from the stump."
        def say_practice_all_gone(_) = "All that grew from the stock is gone, and nothing else."

        def say_practice_old_wood(r)
          "The stretch begins #{r[:over_mm].round} mm below the ring: that wood is older than a year and hardly knits."
        end
        def say_practice_thick_base(_) = "It begins in the thick base, where buds are weak."
        def say_practice_unripe(r) = "It runs #{r[:over_mm].round} mm into the green tip, which dries before it knits."
        def say_practice_damage(_) = "There is a wound in it: use the longer sound stretch beside it."
        def say_practice_more_wood(_) = "There is more sound wood than that."
        def say_practice_buds_fat(r)
          return "Node #{r[:nodes].first} has a fat bud: it flowers, and grows no shoot." if r[:nodes].one?

          "Nodes #{listed(r[:nodes].map(&:to_s))} have fat buds: they flower, and grow no shoot."
        end
        def say_practice_buds_blind(r)
          r[:nodes].one? ? "Node #{r[:nodes].first} is blind." : "Nodes #{listed(r[:nodes].map(&:to_s))} are blind."
        end
        def say_practice_buds_unnamed(r)
          "#{counted(r[:count], 'bud')} that would grow #{r[:count] == 1 ? 'was' : 'were'} not named."
        end
        def say_practice_few_sticks(r) = "#{counted(r[:sticks], 'stick')} of the #{r[:most]} that are in it."
        def say_practice_good_wood(r) = "#{counted(r[:sticks], 'stick')} of ripe wood with buds that grow: all of it."
      end
    end
  end
end
