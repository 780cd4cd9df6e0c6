# frozen_string_literal: true

module Vestry
  module Records
    # The sticks a season's plans want, beside the sticks there are or will be, by variety.
    class WoodSupply
      Line = Struct.new(:variety, :count, :wanted, :for_sites, :promised, :bundled, :shortage, :planned,
                        keyword_init: true) do
        def short? = short.positive?
        # How many are missing, for stubs and bare stretches.
        def short = [wanted - have, 0].max
        def have = promised + bundled
        # Those that the bare stretches leave to the stubs.
        def for_stubs = shortage[:have]
        # The planned limbs that become it.
        def stubs = planned.rows.select { |row| row.variety_id == variety.id }
        # The first planned limbs to drop, in order.
        def to_drop(most = shortage[:drop].size)
          rows = planned.of(shortage[:drop].first(most)).to_h { |row| [row.id, row] }
          rows.values_at(*shortage[:drop].first(most)).compact
        end
      end

      # A planned stub as the core takes it where wood is short: supply and match say the same of it.
      def self.stub(row, orchard, today)
        across = row.place_mm ? CoreInputs.diameter_at(row.limb, row.place_mm.to_f) : row.limb.across_mm.to_f
        { id: row.id, sticks: row.sticks || 1, role: row.role, share: across**2, stock_mm: across,
          take: orchard.success(today).of(row.limb.tree.species, row.technique, hand: row.hand)[:stick] }
      end

      def initialize(orchard, season, today)
        @orchard = orchard
        @season = season
        @today = today
      end

      # @return [Array<Line>] those that are short first
      def lines
        @lines ||= begin
          all = Variety.where(id: stored[:lines].keys).order(:name).all
          all.map { |variety| Line.new(variety: variety, planned: planned, **stored[:lines][variety.id]) }
            .partition(&:short?).flatten(1)
        end
      end

      # Planned stubs with no variety chosen yet.
      def unnamed = stored[:unnamed]

      # What is stored, worked out: sticks wanted and sticks there are, by id of the variety, and how many stubs have
      # none yet.
      def whole
        stubs = planned.rows.group_by(&:variety_id)
        wanted = stubs.keys.compact | site_sticks.keys.compact
        ids = Variety.where(orchard_id: @orchard.id, id: wanted | promises.keys | bundled.keys).select_map(:id)
        { lines: ids.to_h { |id| [id, line(id, stubs.fetch(id, []))] }, unnamed: stubs.fetch(nil, []).size }
      end

      # What is told about the variety of one planned limb; nil when there is enough.
      def short_for(row) = lines.find { |each| each.variety.id == row.variety_id && each.short? }

      # Those that are short for good: what is missing cannot be cut any more.
      def wanting = lines.select { |line| line.short? && !to_come?(line.variety) }

      # Sticks of a variety that lie in bundles, and those of them that nothing that waits wants.
      #
      # @return [Array(Integer, Integer)]
      def in_store(variety_id)
        found = stored[:lines][variety_id] or return [0, 0]
        [found[:bundled], [found[:bundled] - found[:wanted], 0].max]
      end

      # Whether what is missing can still be cut, or ordered: while it sleeps, or on the day where it never does.
      #
      # @param variety [Variety, nil] else of what sleeps
      def to_come?(variety = nil) = !order.woken?(variety)
      def leafy?(variety) = order.leafy?(variety)
      def cut_until(variety = nil) = order.cut_until(variety)

      # What the supply follows from, besides its orchard and day.
      FROM = %w[plans plan_limbs plan_sites sites limbs trees grafts observations tallies varieties bundles
                bundle_checks sticks wood_promises].freeze

      private

      def stored
        named = planned.stored_as("wood supply")
        @stored ||= Derived.fetch(@orchard, named, @today, from: planned.from(FROM)) do |orchard|
          WoodSupply.new(orchard, @season, @today).whole
        end
      end

      def order = @order ||= WoodOrder.new(@orchard, @season, @today)

      def line(id, stubs)
        promised, stored = promises.fetch(id, 0), bundled.fetch(id, 0)
        of_sites = site_sticks.fetch(id, 0)
        have = [promised + stored - of_sites, 0].max
        shortage = Core::Plan::Shortage.of(stubs: stubs.map { |each| self.class.stub(each, @orchard, @today) },
                                           have: have, stick_mm: @orchard.stick_mm, rulebook: @orchard.rulebook)
        { count: stubs.size, wanted: of_sites + shortage[:wanted], for_sites: of_sites, promised: promised,
          bundled: stored, shortage: shortage.except(:allotted) }
      end

      def planned = @planned ||= @orchard.stubs_in_time(@season, @today)

      def site_sticks
        @site_sticks ||= PlannedSites.sticks(@orchard, @season, @today)
      end

      # Sticks that lie in bundles.
      def bundled
        @bundled ||= @orchard.wood_store(@today).for_stubs(season: @season).group_by(&:variety_id)
          .transform_values do |all|
          all.sum(&:left)
        end
      end

      # Wood that is to come: what came lies in bundles.
      def promises
        @promises ||= WoodPromise.coming(@orchard, @season).promised
      end
    end
  end
end
