# frozen_string_literal: true

module Vestry
  module Core
    module Repair
      # Which whole shoot each bridging scion is cut from: long gaps want long shoots, and wood for a
      # bridge is counted by length and not by stick.
      module Shoots
        extend Reckoning

        contract "shoots", "Which shoot each bridging scion is cut from, and what is missing" do
          list :scions, longest: 300, unique: :id do
            key :id
            number :length_mm, unit: "mm", above: 0
          end
          list :shoots, longest: 300, unique: :id do
            key :id
            number :length_mm, unit: "mm", above: 0, help: "of sound last-season wood, tip and base off"
            number :diameter_mm, unit: "mm", above: 0, optional: true
          end
          number :kerf_mm, unit: "mm", least: 0, default: 10.0, help: "lost between two scions of one shoot"
        end

        # So many ways of cutting are tried before the best so far stands.
        TRIES = 4_000
        private_constant :TRIES

        # As many scions as the shoots hold: longest first, each from the shortest rest that holds it; where
        # that leaves one without, other ways of cutting are searched through. A shoot too thin or too thick
        # to bridge with is left out.
        #
        # @return [Hash] +cuts+ (each +shoot+ and +scions+, +left_mm+), +missing+ (ids), +missing_mm+, +unfit+ (shoot
        #   ids)
        def self.call(scions:, shoots:, kerf_mm: 10.0, rulebook: Rulebook.shipped)
          sound, unfit = shoots.partition { |shoot| fit?(shoot, rulebook) }
          wanted = scions.sort_by.with_index { |scion, i| [-scion[:length_mm], i] }
          places = cut(wanted.map { |scion| scion[:length_mm] }, sound.map { |shoot| shoot[:length_mm] }, kerf_mm)
          cuts = sound.each_with_index.map { |shoot, place| shared_out(shoot, place, wanted.zip(places), kerf_mm) }
          missing = wanted.zip(places).filter_map { |scion, at| scion unless at }
          { cuts: cuts.reject { |each| each[:scions].empty? }, missing: missing.map { |each| each[:id] },
            missing_mm: missing.sum(0.0) { |each| each[:length_mm] }, unfit: unfit.map { |each| each[:id] } }
        end

        # Neither too thin nor too thick to bridge with, as far as it was measured.
        def self.fit?(shoot, rulebook)
          shoot[:diameter_mm].nil? || Near.within?(shoot[:diameter_mm], *rulebook.value("methods.bridge.scion_works"))
        end

        # A shoot with the scions that are cut from it, and what is left.
        def self.shared_out(shoot, place, placed, kerf)
          own = placed.filter_map { |scion, at| scion if at == place }
          { shoot: shoot[:id],
            left_mm: own.inject(shoot[:length_mm]) { |left, scion| rest(left, scion[:length_mm], kerf) },
            scions: own.map { |scion| scion[:id] } }
        end

        # Where each length is cut from, by place; nil for one that is missing.
        def self.cut(lengths, shoots, kerf)
          best = nil
          fewest = lengths.size + 1
          tries = 0
          search = lambda do |places, left, missing|
            next if missing + sure_to_miss(lengths.drop(places.size), left) >= fewest || (tries += 1) > TRIES
            next (best, fewest = places, missing) if places.size == lengths.size

            length = lengths[places.size]
            holding = left.each_index.select { |at| Near.at_least?(left[at], length) }.sort_by { |at| [left[at], at] }
            holding.uniq { |at| left[at] }.each do |at|
              search.call(places + [at], left.dup.tap { |all| all[at] = rest(all[at], length, kerf) }, missing)
            end
            search.call(places + [nil], left, missing + 1)
          end
          search.call([], shoots, 0)
          best
        end

        # How many of these, longest first, go without even if no rest were ever too short.
        def self.sure_to_miss(lengths, left)
          wood = left.sum
          lengths.size - lengths.reverse.take_while { |length| Near.at_least?(wood, length) && (wood -= length) }.size
        end

        def self.rest(left, length, kerf) = [left - length - kerf, 0.0].max
        private_class_method :cut, :sure_to_miss, :rest, :fit?, :shared_out
      end
    end
  end
end
