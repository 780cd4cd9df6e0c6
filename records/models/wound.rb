# frozen_string_literal: true

module Vestry
  module Records
    # A trunk that was stripped of bark: what is known of it, and what was done.
    class Wound < Sequel::Model(DB[:wounds])
      include Row
      extend Known
      %i[wrap seal].each { |point| known(point) { Core::Tend::Care.choices(point.to_s) } }
      many_to_one :orchard
      many_to_one :tree
      one_to_many :scions, class: "Vestry::Records::BridgeScion", order: :number, conditions: { hidden_at: nil }
      one_to_many :visits, class: "Vestry::Records::WoundVisit", order: %i[seen_on id], conditions: { hidden_at: nil }
      one_to_many :tasks_done, class: "Vestry::Records::TaskDone", conditions: { hidden_at: nil }

      COURSES = Core::Repair::Mending::COURSES
      CAUSES = Core::Repair::Mending::CAUSES

      def label = tree.label

      # How each set scion was last seen by a day.
      #
      # @return [Hash{Integer=>String}] alive or dead, by scion
      def fates_by(day)
        visits.select { |visit| visit.seen_on <= day }.each_with_object({}) do |visit, known|
          visit.fates.each { |id, row| known[id] = row[:fate] }
        end
      end

      # Those whose aftercare was given to someone.
      def self.tended(orchard, name) = in_sight.where(orchard_id: orchard.id, tended_by: name).order(:id).all

      # Who looks after it.
      def person = tended_by || repaired_by

      # The margins as the reckoning takes them, in order of bearing.
      def margins
        @margins || lay_margins(DB[:wound_margins].where(orchard_id: orchard_id, wound_id: id).order(:bearing_deg).all)
      end

      # The margins of many, asked for together.
      def self.read_margins(wounds)
        read = DB[:wound_margins].where(wound_id: wounds.map(&:id)).order(:wound_id, :bearing_deg).all.group_by do |row|
          row[:wound_id]
        end
        wounds.each { |wound| wound.lay_margins(read.fetch(wound.id, [])) }
      end

      # @param rows [Array<Hash>] in order of bearing
      def lay_margins(rows)
        @margins = rows.map { |row| row.slice(:bearing_deg, :low_mm, :high_mm).transform_values(&:to_f) }
      end

      # Margins as numbers alone, and back.
      #
      # @return [Array<Array<Float>>] bearing, lower and upper margin
      def self.plain_margins(margins)
        margins.map { |each| each.values_at(:bearing_deg, :low_mm, :high_mm).map { |one| one.to_f.round(2) } }
      end

      def self.margins_of(plain) = plain.map { |each| %i[bearing_deg low_mm high_mm].zip(each).to_h }

      # @param readings [Array<Hash>] +bearing_deg+, +low_mm+ and +high_mm+
      def replace_margins(readings)
        DB[:wound_margins].where(orchard_id: orchard_id, wound_id: id).delete
        DB[:wound_margins].multi_insert(readings.map { |each| each.merge(orchard_id: orchard_id, wound_id: id) })
        @margins = @shape = nil
      end

      # The highest number that a scion of it has.
      def last_scion = BridgeScion.where(wound_id: id, hidden_at: nil).max(:number).to_i

      # The trees that wait for repair.
      #
      # @return [Array<Integer>]
      def self.open_tree_ids(orchard) = in_sight.where(orchard_id: orchard.id, repaired_on: nil).select_map(:tree_id)

      # How thick a stump is at its top, where the stem was cut just below this wound.
      #
      # @return [Float] mm
      def stump_top_mm
        across = Core::Survey::Section.reckon({ girth_mm: girth_mm.to_f })[:diameter_mm]
        (across * orchard.rulebook.value("reckoning.cut.stump_top")).round(1)
      end

      def measured? = margins.any?
      def shape
        @shape ||= Core::Repair::WoundShape.new(margins)
      end

      # The scion that stands, or would, at a bearing: its gap, its length and both ends, by the rulebook's seat and
      # bow.
      def scion_at(bearing)
        Core::Repair::Bridge.scion(shape, bearing, *%w[seat
                                                       bow].map { |name| orchard.rulebook.value("reckoning.bridge." \
                                                           "#{name}") })
      end

      # Those that were set, living or not.
      def seated = scions.select(&:set_on)
      def planned = scions.reject(&:set_on)

      private

      def _refresh(dataset)
        @margins = @shape = nil
        super
      end
    end
  end
end
