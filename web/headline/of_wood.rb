# frozen_string_literal: true

module Vestry
  module Web
    class Headline
      # What matters of wood: what to cut, how it keeps, and where it goes.
      module OfWood
        # What the wood wants today.
        def wood(order, cellar)
          due = cellar.still_kept(order.season).select { |kept| kept.due?(@today) }
          short = first_to_cut(order)
          return look_words(due.map(&:bundle)) if due.any?
          return "No tree stands here yet: the wood that plans want is counted here." if orchard.treeless?

          return no_sticks_words(order) if order.lines.empty?
          return in_store_words(order, cellar) unless short

          return awaited_words(order, short) if short.to_find.zero?

          order.woken?(short.variety) ? woken_words(short) : to_cut_words(order, short)
        end

        def in_store_words(order, cellar)
          spent = cellar.spent(order.lines.map(&:variety), season: order.season)
          return fits_words(order) if spent.empty?

          "The wood of #{listed_some(spent.keys.map(&:name), 4)} in store is spent since #{day(spent.values.min)}: " \
            "find other wood, or move #{spent.one? ? 'its' : 'their'} stubs."
        end

        # There is enough of each variety; whether it fits is another thing.
        def fits_words(order)
          have = counted(order.lines.sum(&:have), "stick")
          short = Records::MatchBoard.new(orchard, order.season, @today).short
          return "All the wood for #{order.season} is in store: #{have}." if short.zero?

          leading("There is wood enough for #{order.season}, #{have} in store, but #{counted(short, 'stub')} " \
                  "#{short == 1 ? 'has' : 'have'} none that fits.", "Match sticks to stubs", "wood", "/match")
        end

        # What nobody was asked for comes before what is on its way, what is cut asleep before what is cut on the day,
        # what can be cut before what has woken, but of what is on its way the reverse, and what can be cut first before
        # the rest.
        def first_to_cut(order)
          order.lines.select { |line| line.to_cut.positive? }.min_by.with_index do |line, place|
            coming = line.to_find.zero?
            away = [coming, order.leafy?(line.variety), coming ^ order.woken?(line.variety)].map { |so| so ? 1 : 0 }
            [*away, order.window(line.variety.species)[:from], place]
          end
        end

        # Where several are due, the one that was longest in store leads.
        def look_words(bundles)
          bundle = bundles.first
          more = " and #{counted(bundles.size - 1, 'more bundle')}" if bundles.size > 1
          leading("#{bundle.code} (#{bundle.variety.name})#{more} #{more ? 'want' : 'wants'} looking at: mould, " \
                  "shrivel, swelling.", "Look at #{bundle.code}", "wood", "/bundles/#{bundle.id}")
        end

        # Where nothing is planned that is set with a stick.
        def no_sticks_words(order)
          buds, plants = order.fresh.values.sum, order.joined.values.sum(&:size)
          return none_planned_words(order.season) if buds.zero? && plants.zero?
          return joined_words(order, plants) if buds.zero?

          "#{counted_are(buds, 'bud')} planned: cut on the day from the summer's growth, and nothing is stored."
        end

        def joined_words(order, plants)
          "#{counted_are(plants, 'rooted plant')} wanted, of #{listed_some(order.joined.keys.map(&:name), 4)}: no " \
            "wood is stored for #{plants == 1 ? 'it' : 'them'}."
        end

        def none_planned_words(season)
          return "No stub of #{season} wants wood any more." if Records::PlanQueries.grafted_any?(orchard, season)

          return "No stub of #{season} wants wood." if nothing_to_plan?(season)

          leading("No stub is planned for #{season} with a variety yet: plan first, and the wood is counted here.",
                  "Plan trees first", "plan", role: "steward")
        end

        def to_cut_words(order, line)
          wants = counted(line.to_find, "stick")
          if order.leafy?(line.variety)
            return "#{line.variety.name} wants #{wants}: its leafy wood is cut on the day of grafting."
          end

          return elsewhere_words(order, line) if line.sources.empty?

          from, to = order.window(line.variety.species).values_at(:from, :to)
          leading("#{line.variety.name} still wants #{wants}; wood is cut from #{day(from)} to #{day(to)}.",
                  "The cutting list", "wood", "/list")
        end

        # Of a variety that no limb here can throw.
        def elsewhere_words(order, line)
          leading("#{line.variety.name} still wants #{counted(line.to_find, 'stick')}, and no limb here can throw " \
                  "it: order #{line.to_find == 1 ? 'it' : 'them'} by #{day(order.cut_until(line.variety))}.",
                  "Order from elsewhere", "wood", "/nursery")
        end

        # Of what is to come, what was wanted by a day gone by is spoken of before the rest.
        def awaited_words(order, line)
          late = Records::NurseryOrder.new(orchard, order).overdue(@today)
          late.any? ? leading(overdue(late), "Order from elsewhere", "wood", "/nursery") : on_order_words(order, line)
        end

        # All that is wanted and not in store is to come.
        def on_order_words(order, line)
          wants, by = "#{line.variety.name} wants #{counted(line.to_cut, 'stick')}", order.cut_until(line.variety)
          how = line.ordered.to_i >= line.to_cut ? "on order" : "promised"
          it, they = line.to_cut == 1 ? ["it", "it is"] : ["them", "they are"]
          words = order.woken?(line.variety) ?
            "#{wants}, #{how} and not come yet: ask after #{it}, for the days of cutting are over." :
            "#{wants} by #{day(by)}, and #{they} #{how}."
          leading(words, "Order from elsewhere", "wood", "/nursery")
        end

        # Too late to cut: what is missing of the stubs planned, and what of the reserve alone.
        def woken_words(line)
          reserve = line.to_find - line.short_of_plans
          if line.short_of_plans.zero?
            return "#{line.variety.name} has its wood for the stubs planned; #{counted(reserve, 'stick')} of its " \
                   "reserve #{reserve == 1 ? 'is' : 'are'} missing, and the days of cutting are over."
          end

          more = " for the stubs planned and #{reserve} of its reserve," if reserve.positive?
          leading("#{line.variety.name} is short of #{counted(line.short_of_plans, 'stick')}#{more} and the days of " \
                  "cutting are over: find stored wood, or drop stubs.", "Order from elsewhere", "wood", "/nursery")
        end
        private :first_to_cut, :in_store_words, :no_sticks_words, :joined_words, :woken_words, :to_cut_words,
                :look_words, :none_planned_words, :elsewhere_words, :awaited_words, :on_order_words,
                :fits_words

        def overdue(promises)
          "#{listed(promises.map { |each| each.variety.name }.uniq)}: not come yet, and wanted by " \
            "#{day(promises.map(&:wanted_by).min)}: ask after #{promises.sum(&:sticks) == 1 ? 'it' : 'them'}."
        end

        def nursery(nursery)
          late = nursery.overdue(@today)
          return overdue(late) if late.any?

          wanted = nursery.lines
          if wanted.any?
            return "#{counted_are(wanted.sum(&:sticks), 'stick')} to be asked for elsewhere, of " \
                   "#{counted(wanted.size, 'variety', 'varieties')}."
          end

          nursery.awaited.empty? ? "Nothing has to come from elsewhere for #{nursery.order.season}." :
            "#{counted_are(nursery.awaited.sum(&:sticks), 'stick')} on order."
        end

        def cutting(order)
          wanted = order.lines.select { |line| line.to_find.positive? }
          return nothing_to_cut_words(order) if wanted.empty?

          sum, kinds = wanted.sum(&:to_find), counted(wanted.size, "variety", "varieties")
          return cut_here_words(order, wanted) unless wanted.any? { |line| order.woken?(line.variety) }

          "#{counted(sum, 'stick')} of #{kinds} #{sum == 1 ? 'is' : 'are'} missing for #{order.season}, and the days " \
            "of cutting are over: find stored wood."
        end

        def nothing_to_cut_words(order)
          coming = order.lines.sum(&:to_come)
          return "Nothing is to be cut for #{order.season}." if coming.zero?

          "Nothing is to be cut for #{order.season}: the #{counted(coming, 'stick')} still wanted " \
            "#{coming == 1 ? 'is' : 'are'} to come."
        end

        # What is cut here, and what no limb here can throw.
        def cut_here_words(order, wanted)
          here, away = wanted.partition { |line| line.sources.any? }
          sticks = ->(lines) { lines.sum(&:to_find) }
          kinds = counted(wanted.size, "variety", "varieties")
          if here.empty?
            return "#{counted(sticks[away], 'stick')} for #{order.season}, of #{kinds}, come from elsewhere: no limb " \
                   "here can throw #{wanted.one? ? 'it' : 'them'}."
          end

          "#{counted(sticks[here], 'stick')} to cut for #{order.season}, of " \
            "#{counted(here.size, 'variety', 'varieties')}#{"; #{sticks[away]} more come from elsewhere" if away.any?}."
        end
        private :cut_here_words

        def look_now_words(bundle)
          looked = bundle.last_look(@today)
          return "look at it now, for nobody has yet." if looked.nil?
          return "look at it now, for it is a month since anyone did." if looked.found == "sound"

          "look whether it mended, for something was found wrong on #{day(looked.seen_on)}."
        end
        private :look_now_words

        def bundle(kept)
          words = "#{kept.bundle.code}: #{counted(kept.left, kept.bundle.whole_shoots ? 'whole shoot' : 'stick')} " \
                  "of #{kept.bundle.variety.name} left"
          if kept.over && kept.left.positive?
            them = kept.left == 1 ? "it" : "them"
            return "#{words} over, and no graft wants #{them} any more: throw #{them} out."
          end
          return "#{words}, and none that was forced moved: throw it out, unless another lot moves." if kept.dead?
          return "#{words}, and its life is spent: throw it out, or test every stick." if kept.spent?
          return "#{words}; #{look_now_words(kept.bundle)}" if kept.due?(@today)

          kept.age ? "#{words}, with #{percent(kept.age[:life_left_share])} of its life." : "#{words}."
        end

        def store(store, readings)
          return "#{store.name} has told nothing yet: bring in its thermometer's log." if readings.empty?

          last = readings.last
          warm = orchard.rulebook.value("reckoning.storage.warm_c")
          "#{store.name} was at #{warmth(last[:celsius])} " \
          "on #{day(last[:at].to_date)}#{last[:celsius] > warm ? ': too warm, buds wake; move the wood' : ''}."
        end

        def match(board)
          return "Nothing to match for #{board.season} yet." if board.size.zero?
          return "Every stub of #{board.season} has its sticks." if board.short.zero?
          return no_wood_yet(board) unless board.stocked?

          first = board.first&.then { |place| ": begin with #{place.row.limb.label}" }
          "#{counted(board.short, 'stub')} of #{board.size} #{board.short == 1 ? 'goes' : 'go'} short#{first}."
        end

        def no_wood_yet(board)
          if orchard.wood_store(@today).shoots(season: board.season).any?
            return "Only whole shoots of #{board.season} lie in store, and no stub is given those: cut them up, or " \
                   "find other wood."
          end

          supply = orchard.wood_supply(board.season, @today)
          "No wood for #{board.season} is in store#{" yet: it is cut or ordered by #{day(supply.cut_until)}" if
            supply.to_come?}."
        end
        private :no_wood_yet
      end
    end
  end
end
