# frozen_string_literal: true

module Vestry
  module Web
    # What the bench draws for a graft that is about to be logged: from what the form holds, and where it holds nothing
    # that can be read, from the plan and the rulebook.
    class Bench
      attr_reader :limb

      # @param reading [Contracts::FormResult] of a graft
      # @param given [Array<Records::Stick>] the sticks that the match gives to it
      def initialize(limb, reading, given: [])
        @limb = limb
        @orchard = limb.orchard
        @reading = reading
        @given = given
      end

      def technique
        known = @orchard.rulebook.stub_methods
        @reading.shown(:technique).then { |name| known.include?(name) ? name : @orchard.rulebook.end_methods.first }
      end

      def stub_mm
        length(:stub) || Core::Plan::Methods.drawn_stock(technique, planned_mm, @orchard.rulebook)
      end

      # Where its limb is cut off for it, as typed or planned; nil where the head stays on.
      def head_cut_mm
        book = @orchard.rulebook
        (length(:cut, book.value("plausible.cut")) || limb.planned&.place_mm) if book.heads?(technique)
      end

      def scion_mm = length(:scion) || @given.first&.diameter_mm&.to_f || wanted || pencil
      def count = @reading.shown(:sticks).to_i.clamp(1, 5)
      def labels = @given.map(&:label)

      # Where each stick sits: as typed or planned, else where so many sit best.
      def faces
        typed = @reading.shown(:faces).to_s.tr("−", "-").scan(/-?\d+(?:\.\d+)?/).map(&:to_f)
        typed.size == count ? typed : Records::CoreInputs.faces(limb, count, technique)
      end

      private

      def length(name, range = [2, 2000])
        mm = Core::Measure.parse(@reading.shown(name).to_s[0, 40], units: @orchard.units).mm
        mm if mm.between?(*range)
      rescue Core::BadInput
        nil
      end

      def planned_mm = limb.planned&.place_mm&.then { |mm| Records::CoreInputs.diameter_at(limb, mm) }
      def wanted
        range = Core::Plan::Methods.scion_range(technique, stub_mm, @orchard.rulebook) or return nil
        range[:ideal].sum / 2
      end
      def pencil = @orchard.rulebook.value("reckoning.wood.pencil").to_f
    end
  end
end
