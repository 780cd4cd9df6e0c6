# frozen_string_literal: true

module Vestry
  module Records
    # A tree through its years: what was measured of it, what is planned, and what stands of what was
    # planned.
    class TreeYears
      Year = Struct.new(:season, :planned, :worked, :took, :lost, :growth_mm, :canopy, :foreseen, keyword_init: true)

      def initialize(tree, today)
        @tree = tree
        @today = today
        @orchard = tree.orchard
        @plan = TreePlan.new(tree, today).as_decided
      end

      attr_reader :plan

      def now = @orchard.season.name_of(@today)
      def first = [grafts.map { |graft| season(graft) }.min, now].compact.min - (grafts.any? ? 1 : 0)
      def last = [now, *(@plan.any? ? @plan.seasons : [])].max + 4
      def seasons = (first..last).to_a
      def grafts = @grafts ||= @tree.limbs.flat_map(&:grafts).select { |graft| graft.grafted_on <= @today }

      # Season by season to the present: planned, worked, took, lost, and the head that stands, as
      # measured and as was foreseen.
      def rows = @rows ||= read

      # What was to be foreseen of the same grafts, by the size of their stubs and a first year's shoot.
      def foreseen = @foreseen ||= @plan.any? ? foresee : {}

      # The share of the old head that stands at the end of each counted season: what was left, and
      # each graft's own wood against its stub's section.
      def measured
        @measured ||= begin
          counted = grafts.flat_map { |graft| graft.tallies.map(&:season) }.uniq.sort
          counted.to_h { |year| [year, canopy(year)] }
        end
      end

      private

      def read
        planned = (@tree.plan&.plan_limbs || []).select { |row| TreePlan::WORKED.include?(row.role) && row.season }
          .group_by(&:season)
        made = grafts.group_by { |graft| season(graft) }
        [*planned.keys, *made.keys].uniq.sort.map do |year|
          year_of(year, planned.fetch(year, []), made.fetch(year, []))
        end
      end

      def year_of(year, planned, made)
        tags = ->(fate) { made.select { |graft| graft.fate == fate }.map { |graft| graft.limb.tag }.sort }
        Year.new(season: year, planned: planned.map { |row| row.limb.tag }.sort,
                 worked: made.map { |graft| graft.limb.tag }.sort, took: tags["took"], lost: tags["lost"],
                 growth_mm: made.flat_map { |graft| graft.tallies.filter_map(&:growth_mm) }.max&.to_f,
                 canopy: measured[year], foreseen: foreseen[year])
      end

      def foresee
        measured.keys.to_h do |year|
          [year, head_of(year) { |graft| to_be_grown(graft, year) }]
        end
      end

      # Without what was counted of it.
      def to_be_grown(graft, year)
        Core::Plan::Regrowth.at(year - season(graft), CoreInputs.regrowth(graft).except(:measured),
                                rulebook: @orchard.rulebook)[:share]
      end

      def season(graft) = @orchard.season.name_of(graft.grafted_on)

      # The graft for which each limb was cut off that stands on it by a season's end; beside one in its side the head
      # stands on.
      def by_limb(year)
        (@by_limb ||= {})[year] ||= standing(year)
          .to_h { |limb| [limb, limb.grafts.select { |graft| graft.grafted_on <= @today &&
                                                     season(graft) <= year }.last] }
          .compact.select { |_, graft| graft.head_off?(@orchard.season.span(year).max) }
      end

      # The limbs that stood when the first graft was made: the old head is theirs, whatever came off since.
      def old_limbs
        @old_limbs ||= begin
          begun = @orchard.season.span(grafts.map { |graft| season(graft) }.min).begin
          there = @tree.limbs.select { |limb| limb.gone_on.nil? || limb.gone_on >= begun }
          there.select { |limb| limb.parent.nil? || there.include?(limb.parent) }
        end
      end

      # Those of them that stood at a season's end.
      def standing(year) = old_limbs.select { |limb| limb.outlasted?(year) }

      def canopy(year) = (head_of(year) { |graft| grown(graft, year) } if @plan.any?)

      # What is left of the old head in a season, with what its grafts have grown back of what was cut off for them.
      #
      # @yield [Graft] the share of that which it has grown
      def head_of(year)
        by_then = by_limb(year)
        cuts = by_then.map { |limb, graft| cut(limb, graft.cut_mm) }
        off = (old_limbs - standing(year)).map { |limb| cut(limb, 0) }
        1 - removed(cuts + off) + by_then.values.zip(cuts).sum { |graft, one| removed([one]) * yield(graft) }
      end

      def cut(limb, at_mm) = { limb: limb.id, at_mm: at_mm.to_f }

      def removed(cuts)
        @sections ||= CoreInputs.canopy_limbs(old_limbs)
        CoreInputs.canopy_of(@sections, cuts, @orchard)[:removed]
      end

      def grown(graft, year)
        tally = graft.tallies.select { |each| each.season <= year }.last
        return 0.0 if tally.nil? || !tally.alive || tally.above_mm.nil?

        Core::Tally::Scaffold.grown_back(tally.above_mm.to_f, graft.stub_mm.to_f, tally.sticks_alive)
      end
    end
  end
end
