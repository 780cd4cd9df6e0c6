# frozen_string_literal: true

module Vestry
  module Records
    # Nurse limbs of trees that were worked: kept, shortened or taken off, by the state of what they nurse.
    class Nurses
      NurseLimb = Struct.new(:limb, :since, :action, :kept_after, :reasons, keyword_init: true)
      MOST = 200
      # How many seasons a nurse stands by each practice, and whether the practice waits for the stubs to close.
      STANDS = { "first-autumn" => [1, false], "second-year" => [2, false], "closed" => [1, true] }.freeze

      # @param within [Integer, nil] the nurses of one tree alone
      def initialize(orchard, today, within: nil)
        @orchard = orchard
        @today = today
        @within = within
        @book = orchard.rulebook
      end

      # When they come off by the schools of their trees: one practice, as a rule.
      #
      # @return [Array<String>] choices at the point "nurse-off", the commonest first; the orchard's own where no nurse
      #   stands
      def practices
        by = all.group_by { |each| each.limb.tree.practice("nurse-off") }.sort_by { |_, some| -some.size }.map(&:first)
        by.any? ? by : [@book.practice("nurse-off", @orchard.school)]
      end

      # @return [Array<NurseLimb>] in walking order
      def all
        @all ||= rows.filter_map { |row| nurse(row.limb) unless row.limb.gone_on }
      end

      # Labels of those that can come off now and of those to be shortened: what is stored, worked out.
      #
      # @return [Hash{String=>Array<String>}] +off+ and +shorten+
      def self.to_cut(orchard, today)
        Derived.fetch(orchard, "nurses to cut", today, from: FROM) do |fresh|
          all = new(fresh, today).all.group_by(&:action)
          %w[off shorten].to_h { |action| [action, all.fetch(action, []).map { |each| each.limb.label }] }
        end
      end

      # One of them, whatever is kept of a long list of them.
      #
      # @return [NurseLimb, nil]
      def self.of_limb(limb, today)
        new(limb.orchard, today, within: limb.tree_id).all.find { |each| each.limb.id == limb.id }
      end

      FROM = %w[plans plan_limbs limbs limb_events trees grafts observations tallies].freeze
      private_constant :FROM

      private

      def rows = @rows ||= read

      def read
        found = PlanQueries.in_use(@orchard).where(role: "nurse").limit(MOST)
        found = found.where(Sequel[:limbs][:tree_id] => @within) if @within
        found.eager(limb: { tree: [{ limbs: { grafts: %i[visits tallies] } }, { plan: :plan_limbs }] }).all
      end

      def nurse(limb)
        tree = limb.tree
        tree.associations[:orchard] = @orchard
        limbs = tree.standing_limbs
        made = limbs.filter_map { |each| grafted(each) }
        return nil if made.empty?

        since = made.map(&:grafted_on).max
        told = Core::Tend::Nurse.reckon(facts(limb, limbs, since), rulebook: @book)
        NurseLimb.new(limb: limb, since: since, **told.slice(:action, :kept_after, :reasons))
      end

      def facts(limb, limbs, since)
        shares = CoreInputs.canopy(limbs)[:shares]
        worked = limbs.select { |each| grafted(each) || to_work?(each) }
        others = (limbs - worked - [limb]).reject(&:parent_id)
        { nurse_share: shares.fetch(limb.id), kept_other: others.sum { |each| shares.fetch(each.id) }.clamp(0.0, 1.0),
          stubs: worked.map { |each| stub(each, shares.fetch(each.id)) },
          seasons_since: @orchard.season.name_of(@today) - @orchard.season.name_of(since),
          **held_back(limb), **practised(limb, worked) }
      end

      def held_back(limb)
        @headed ||= LimbEvent.headed(rows.map(&:limb_id), by: @today)
        { shortened: Core::Tend::Nurse.shortened?(@headed[limb.id], @today, @orchard.season, @book),
          growing: Core::Tend::Nurse.growing?(@today, @orchard.season, @book) }
      end

      # How long the practice lets it stand, and whether for the stubs to close.
      def practised(nurse, worked)
        seasons, waits = STANDS.fetch(nurse.tree.practice("nurse-off"), [1, false])
        { least_seasons: seasons, closed: waits ? worked.filter_map { |each| closed(each) }.min || 0.0 : 1.0 }
      end

      # The graft that stands on a limb by today.
      def grafted(limb) = limb.graft&.then { |graft| graft if graft.grafted_on <= @today }
      def row(limb) = (limb.tree.plan&.plan_limbs || []).find { |each| each.limb_id == limb.id }
      def to_work?(limb) = Core::Plan::Soundness::WORKED.include?(row(limb)&.role)

      def stub(limb, share)
        graft = grafted(limb)
        mm = graft&.stub_mm&.to_f || row(limb)&.stock_mm&.to_f || limb.across_mm
        { share: share, stub_mm: mm, state: state(limb, graft), shoots_mm: graft ? shoots(graft, mm) : [] }
      end

      # One that died and is to be worked again waits; one that died and is not was given up.
      def state(limb, graft)
        return "waiting" unless graft

        case graft.fate(@today)
        when "took" then asleep?(graft) ? "waiting" : "alive"
        when "lost" then to_work?(limb) ? "dead" : "waived"
        else "waiting"
        end
      end

      # A bud that sleeps feeds nothing yet.
      def asleep?(graft) = graft.kind == "bud" && CoreInputs.care(graft, @today)[:state] == "sleeping"

      # Feet of its shoots as last counted; else as they would be after their first year and each since.
      def shoots(graft, stub_mm)
        graft.associations[:orchard] = @orchard
        seen = graft.tallies.reverse.find { |tally| tally.above_mm && tally.tallied_on <= @today }
        living = [graft.living_sticks, 1].max
        return [seen.above_mm.to_f] * living if seen

        [expected(graft, stub_mm)] * living
      end

      def expected(graft, stub_mm)
        age = @orchard.season.name_of(@today) - @orchard.season.name_of(graft.grafted_on)
        long = graft.visits.filter_map(&:longest_shoot_mm).max.to_f
        Core::Plan::Regrowth.call(stub_mm: stub_mm, shoot_mm: long, seasons: age + 1,
                                  rulebook: @book)[:diameters_mm].last
      end

      # How much of the stub of a living graft is closed; where none was cut, nothing is open.
      def closed(limb)
        graft = grafted(limb)
        return unless graft && graft.fate(@today) == "took"

        graft.kind == "stub" ? CoreInputs.closure(graft)[:closed_share] : 1.0
      end
    end
  end
end
