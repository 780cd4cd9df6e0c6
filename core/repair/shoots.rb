# frozen_string_literal: true

module Vestry
  module Core
    module Repair
      # Which whole shoot each bridging scion is cut from: long gaps want long shoots, and wood for a
      # bridge is counted by length and not by stick.
      module Shoots
        extend Reckoning

        contract "shoots", "Which shoot each bridging scion is cut from, and what is missing" do
          list :scions do
            key :id
            number :length_mm, unit: "mm", above: 0
          end
          list :shoots do
            key :id
            number :length_mm, unit: "mm", above: 0, help: "of sound last-season wood, tip and base off"
            number :diameter_mm, unit: "mm", above: 0, optional: true
          end
          number :kerf_mm, unit: "mm", least: 0, default: 10.0, help: "lost between two scions of one shoot"
        end

        # Longest scion first, each from the shortest rest that holds it (best fit, longest first: at
        # most about a fifth more shoots than the least possible). A shoot too thin or too thick to
        # bridge with is left out.
        #
        # @return [Hash] +cuts+ (each +shoot+ and +scions+, +left_mm+), +missing+ (ids), +missing_mm+, +unfit+ (shoot ids)
        def self.call(scions:, shoots:, kerf_mm: 10.0, rulebook: Rulebook.shipped)
          low, high = rulebook.value("methods.bridge.scion_works")
          fit, unfit = shoots.partition { |shoot| shoot[:diameter_mm].nil? || Near.within?(shoot[:diameter_mm], low, high) }
          rests = fit.map { |shoot| { shoot: shoot[:id], left_mm: shoot[:length_mm], scions: [] } }
          missing = []
          scions.sort_by.with_index { |scion, i| [-scion[:length_mm], i] }.each do |scion|
            rest = rests.select { |each| Near.at_least?(each[:left_mm], scion[:length_mm]) }.min_by { |each| each[:left_mm] }
            next missing << scion unless rest

            rest[:scions] << scion[:id]
            rest[:left_mm] = [rest[:left_mm] - scion[:length_mm] - kerf_mm, 0.0].max
          end
          { cuts: rests.reject { |each| each[:scions].empty? }, missing: missing.map { |each| each[:id] }, missing_mm: missing.sum(0.0) { |each| each[:length_mm] }, unfit: unfit.map { |each| each[:id] } }
        end
      end
    end
  end
end
