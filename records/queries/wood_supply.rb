# frozen_string_literal: true

module Vestry
  module Records
    # The sticks a season's plans want, beside the sticks there are or will be, by variety.
    class WoodSupply
      Line = Struct.new(:variety, :stubs, :promised, :bundled, :shortage, keyword_init: true) do
        def short? = shortage[:short].positive?
        def have = promised + bundled
        # The planned limbs to drop first, in order.
        def to_drop = shortage[:drop].map { |id| stubs.find { |each| each.id == id } }
      end

      # A planned stub as the core takes it where wood is short: supply and match say the same of it.
      def self.stub(row, orchard, today)
        { id: row.id, sticks: row.sticks || 1, role: row.role, share: (row.stock_mm || 0).to_f**2,
          stock_mm: row.stock_mm&.to_f, take: orchard.success(today).of(row.limb.tree.species, row.technique)[:stick] }
      end

      def initialize(orchard, season, today)
        @orchard = orchard
        @season = season
        @today = today
      end

      # @return [Array<Line>] those that are short first
      def lines
        @lines ||= begin
          by_variety = stubs.group_by(&:variety_id)
          all = Variety.where(orchard_id: @orchard.id, id: by_variety.keys.compact | promises.keys | bundled.keys)
            .order(:name).all
          all.map { |variety| line(variety, by_variety.fetch(variety.id, [])) }.sort_by.with_index do |each, place|
            [each.short? ? 0 : 1, place]
          end
        end
      end

      # Planned stubs with no variety chosen yet.
      def unnamed = stubs.count { |each| each.variety_id.nil? }

      # What is told about the variety of one planned limb; nil when there is enough.
      def short_for(row) = lines.find { |each| each.variety.id == row.variety_id && each.short? }

      private

      def line(variety, stubs)
        sites = site_sticks.fetch(variety.id, 0)
        have = [promises.fetch(variety.id, 0) + bundled.fetch(variety.id, 0) - sites, 0].max
        Line.new(variety: variety, stubs: stubs, promised: promises.fetch(variety.id, 0),
                 bundled: bundled.fetch(variety.id, 0),
                 shortage: Core::Plan::Shortage.of(stubs: stubs.map { |each| self.class.stub(each, @orchard, @today) },
                                                   have: have, stick_mm: @orchard.stick_mm,
                                                   rulebook: @orchard.rulebook))
      end

      def stubs = @stubs ||= @orchard.planned(:stubs, @season).rows

      def site_sticks
        @site_sticks ||= PlanSite.in_sight.where(Sequel[:plan_sites][:orchard_id] => @orchard.id, season: @season)
          .join(:plans, id: :plan_id, superseded_at: nil)
                                 .group(Sequel[:plan_sites][:variety_id]).select_hash(Sequel[:plan_sites][:variety_id],
                                   Sequel.function(:sum, Sequel[:plan_sites][:sticks]).as(:sticks))
      end

      # Sticks that lie in bundles.
      def bundled
        @bundled ||= @orchard.wood_store(@today).for_stubs(season: @season).group_by(&:variety_id)
          .transform_values do |all|
          all.sum(&:left)
        end
      end

      def promises
        @promises ||= WoodPromise.in_sight.where(orchard_id: @orchard.id, season: @season).group(:variety_id)
          .select_hash(:variety_id, Sequel.function(:sum, :sticks).as(:sticks))
      end
    end
  end
end
