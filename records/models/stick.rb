# frozen_string_literal: true

module Vestry
  module Records
    # One stick of a bundle: there, on a graft or in a bridge, lent or thrown out.
    class Stick < Sequel::Model(DB[:sticks])
      many_to_one :bundle
      many_to_one :graft
      many_to_one :wound

      dataset_module do
        def here
          where(Sequel[:sticks][:graft_id] => nil, Sequel[:sticks][:left_for] => nil, Sequel[:sticks][:wound_id] => nil)
        end
      end

      # Those of a bundle that are here, in their order, held until the transaction ends.
      def self.hold_here(bundle) = where(bundle_id: bundle.id).here.order(:number).for_update.all

      # Those of a bundle that are lent, in the same way.
      def self.hold_lent(bundle, most:)
        where(bundle_id: bundle.id, left_for: "lent").order(:number).limit(most).for_update.all
      end

      # Where sticks are that were set, by the word for it.
      SET_ON = { "Graft" => :graft, "Wound" => :wound }.freeze

      # @param row [Graft, Wound]
      def self.set_on(row) = SET_ON.fetch(row.class.name.split("::").last)

      # Those on a graft or in a bridge, held in the same way.
      def self.hold_on(row) = where("#{set_on(row)}_id": row.id).order(:bundle_id, :number).for_update.all

      # How far it is from a thickness; further than any where either is not known.
      def off_by(thick) = thick && diameter_mm ? (diameter_mm - thick).abs.to_f : Float::INFINITY

      # Whether those of a bundle that are here are all of one thickness, or of none that is known.
      def self.alike?(bundle) = where(bundle_id: bundle.id).here.distinct.limit(2).select_map(:diameter_mm).size < 2
      def self.left_in(bundle) = where(bundle_id: bundle.id).here.count
      def self.used_for?(row) = !where("#{set_on(row)}_id": row.id).empty?

      # Into a bridge they go, and are here no more.
      def self.set_into(wound, sticks) = where(id: sticks.map(&:id)).update(wound_id: wound.id)

      # Those that left lie in their bundle again: all of them, or none.
      #
      # @return [Boolean]
      def self.lie_again(bundle, numbers, why)
        gone = where(bundle_id: bundle.id, number: numbers, left_for: why)
        gone.count == numbers.size && gone.update(left_for: nil, left_on: nil, left_to: nil).positive?
      end

      # Those that were set into a bridge lie in their bundle again: all of them, or none.
      #
      # @return [Boolean]
      def self.never_set(bundle, numbers)
        set = where(bundle_id: bundle.id, number: numbers).exclude(wound_id: nil)
        set.count == numbers.size && set.update(wound_id: nil).positive?
      end

      # Those that came by mistake never did: all of them, or none.
      #
      # @return [Boolean]
      def self.never_came(bundle, numbers)
        came = where(bundle_id: bundle.id, number: numbers).here
        kept = DB[:stick_locks].where(stick_id: came.select(:id))
        came.count == numbers.size && kept.empty? && came.delete.positive?
      end

      # All that were split off a bundle lie in it again, as they were numbered there.
      #
      # @return [Boolean]
      def self.put_back(part, bundle, numbers)
        own = where(bundle_id: part.id).order(:number).all
        taken = where(bundle_id: bundle.id, number: numbers)
        return false unless own.size == numbers.size && own.all?(&:here?) && taken.empty?

        own.zip(numbers) { |stick, number| stick.update(bundle_id: bundle.id, number: number) }
        true
      end

      # All of one bundle go into another, numbered on.
      def self.join(from, into)
        last = where(bundle_id: into.id).max(:number).to_i
        where(bundle_id: from.id).order(:number).each_with_index do |stick, i|
          stick.update(bundle_id: into.id, number: last + i + 1)
        end
      end

      # More of a bundle, numbered on.
      #
      # @param diameters [Array<Float, nil>] one for each
      # @return [Array<Integer>] their numbers
      def self.add(bundle, diameters)
        last = where(bundle_id: bundle.id).max(:number).to_i
        multi_insert(diameters.each_with_index.map do |mm, i|
          { orchard_id: bundle.orchard_id, bundle_id: bundle.id, number: last + i + 1, diameter_mm: mm }
        end)
        bundle.associations.delete(:sticks)
        Array.new(diameters.size) { |i| last + i + 1 }
      end

      def here? = graft_id.nil? && left_for.nil? && wound_id.nil?
      def label = "#{bundle.code}·#{number}"
    end
  end
end
