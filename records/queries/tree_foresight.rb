# frozen_string_literal: true

module Vestry
  module Records
    # Many futures of the ways in which a tree could be changed: what took here and how sure that is, this site's past
    # years, the crew's hours, the wood that is over, and how its limbs grow back.
    class TreeForesight
      # Seasons in which other trees' work is looked at.
      SEASONS = 3
      private_constant :SEASONS

      # @param plan [TreePlan]
      # @param named [Array<Hash>] each a plan as Core::Plan::Projection takes it
      def initialize(plan, named, nut:)
        @plan = plan
        @orchard = plan.orchard
        @book = @orchard.rulebook
        @named = named
        @nut = nut
      end

      # @return [Hash{String=>Hash}] by the plans' names
      def all
        @named.to_h { |plan| [plan[:name], foreseen(plan)] }.compact
      end

      # Whether there are past years here that a season can be like.
      def past_years? = springs[:years].any?

      private

      # What is stored under the very question, from which alone it follows: it is the same for whoever asks.
      def foreseen(plan)
        asked = question(plan)
        return nil if asked[:stubs].empty?

        name = "foresee #{Digest::SHA256.hexdigest(asked.to_s)[0, 24]}"
        Derived.fetch(@orchard, name, @plan.today, from: []) { Core::Plan::Foresee.reckon(asked, rulebook: @book) }
      end

      def question(plan)
        stubs = plan[:work].filter_map { |work| stub(work) }
        groups = groups(stubs)
        { groups: groups, stubs: stubs, old: old(plan),
          regraft: { tries: figure("tries"), takes_factor: figure("takes_factor") }, nut: @nut,
          wood: wood(stubs, groups), **springs, runs: figure("runs") }
      end

      # The past years that each season draws from, and what of its hours other trees have first.
      def springs
        @springs ||= begin
          past = PastYears.new(@orchard, @plan.today)
          years = past.of(@plan.tree.species)
          first = @plan.first_season
          { years: years, busy: years.empty? ? [] : Array.new(SEASONS) { |n| past.busy(@plan.tree, first + n) } }
        end
      end

      # A variety that stands here on old wood gives sticks every winter; of another there is what this season leaves
      # over, and what is cut off the young grafts of it: those of this tree by its luck, the others' as expected.
      def wood(stubs, groups)
        later = LaterWood.new(@orchard, @plan.first_season, @plan.today)
        own = stubs.group_by { |stub| stub[:wood] }.reject { |id, _| id.nil? || later.standing?(id) }
        own.map do |id, few|
          others = later.young(id) - lives(few.select { |stub| stub[:season] <= 0 }, groups)
          { id: id, sticks: later.over(id), gives: figure("gives"),
            a_winter: later.given_by([others, 0].max).floor.to_f }
        end
      end

      # How many of some stubs are expected to.
      def lives(stubs, groups)
        means = groups.to_h { |group| group.values_at(:id, :mean) }
        stubs.sum { |stub| LaterWood.lives(means.fetch(stub[:group]), stub[:sticks]) }
      end

      # The head beside the stubs, with what is lifted of it.
      def old(plan)
        { share: (1 - plan[:work].sum { |work| work[:share] }).clamp(0.0, 1.0),
          lifts: plan[:lifts].map { |lift| lift.merge(season: [lift[:season], 0].max) } }
      end

      def figure(name) = @book.value("reckoning.foresee.#{name}")

      # One that was made is known, and one that was lost is gone.
      def stub(work)
        limb = limb_of(work)
        return made(work, limb) if limb.graft && !work[:headed]

        outlook = @plan.outlook(limb)
        return unless outlook.stock_mm

        { **work.slice(:id, :season, :share, :headed, :stub_mm, :shoot_mm), group: group(limb, outlook.technique),
          sticks: [work[:sticks], 1].max, wind: wind(outlook.technique),
          minutes: outlook.minutes.to_f, wood: @plan.planned(limb)&.variety_id,
          needs_slip: Core::Slip::Window.kind(outlook.technique, @book) == "slip" }
      end

      def limb_of(work) = @plan.limbs.find { |each| each.id == work[:id] }

      def made(work, limb)
        return if work[:take].zero?

        { **work.slice(:id, :season, :share, :stub_mm, :shoot_mm, :measured), group: "made", sticks: 1,
          wind: [0.0, 0.0], wood: limb.graft.variety_id }
      end

      # Stubs of a method and a kind share one chance, those that somebody took on with that hand's.
      def group(limb, technique)
        hand = @plan.planned(limb)&.hand
        name = [technique, hand].compact.join(" by ")
        (@worked_by ||= {})[name] = [technique, hand]
        name
      end

      def groups(stubs)
        stubs.map { |each| each[:group] }.uniq.map do |name|
          next { id: "made", mean: 1.0, strength: 1.0 } if name == "made"

          technique, hand = @worked_by.fetch(name)
          known = @orchard.success(@plan.today).of(@plan.tree.species, technique, hand: hand)
          { id: name, mean: known[:stick],
            strength: known[:trials] + @book.value("reckoning.take.prior_strength").to_f }
        end
      end

      # By the school's way with shoots; a gust loads a shoot by its square, and a union that holds all round bears more
      # than one under bark, for which the figures are.
      def wind(technique)
        (@wind ||= {})[technique] ||= begin
          gust = @orchard.weather(@plan.today).gust_to_expect / @book.value("care.figures.gale_ms")
          held = @book.value("reckoning.union.bark_hold") / Core::Tend::Union.hold(technique, 0.0, @book)
          figure("wind").fetch(@plan.tree.practice("shoots"))
            .map { |share| (share * held * (gust**2).clamp(0.25, 4)).clamp(0.0, 0.9) }
        end
      end
    end
  end
end
