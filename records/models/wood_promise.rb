# frozen_string_literal: true

module Vestry
  module Records
    # Sticks of a variety that are promised for a season: to be cut here, or to come from elsewhere.
    class WoodPromise < Sequel::Model(DB[:wood_promises])
      include Row
      many_to_one :orchard
      many_to_one :variety

      # Sticks on their way, by variety: +promised+ in any way, and those that were +ordered+ of them.
      Awaited = Struct.new(:promised, :ordered) do
        def of(variety_id) = { promised: promised.fetch(variety_id, 0), ordered: ordered.fetch(variety_id, 0) }
      end

      # @return [Awaited] for a season
      def self.coming(orchard, season)
        rows = in_sight.where(orchard_id: orchard.id, season: season, received_on: nil)
          .select(:variety_id, :sticks, :ordered_on).map(&:values)
        sums = [rows, rows.select { |row| row[:ordered_on] }].map do |each|
          each.group_by { |row| row[:variety_id] }.transform_values { |all| all.sum { |row| row[:sticks] } }
        end
        Awaited.new(*sums)
      end
    end
  end
end
