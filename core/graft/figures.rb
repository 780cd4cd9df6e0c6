# frozen_string_literal: true

module Vestry
  module Core
    module Graft
      # The lengths of a method's cuts for one stick and one stub.
      module Figures
        KINDS = { "bark" => "slit", "rind" => "slit", "side-bark" => "side-slit", "inlay" => "panel",
                  "four-flap" => "flaps", "three-flap" => "flaps", "cleft" => "cleft",
                  "whip-and-tongue" => "tongue", "tongued-side" => "side-tongue", "shield-bud" => "bud",
                  "chip-bud" => "bud", "approach" => "approach" }.freeze

        # Kinds whose cuts are drawn; of the others there is no right drawing yet, and so none.
        DRAWN = %w[slit panel flaps cleft tongue].freeze
        # Kinds that have no long face.
        FACELESS = %w[bud approach].freeze

        module_function

        # @param technique [String]
        # @param stub_mm [Float] bark and all
        # @param scion_mm [Float]
        # @param bark_mm [Float] of the stock
        # @return [Hash] +kind+ and lengths in mm: +face+ (none for a bud or an approach), +shoulder+, +bevel+,
        #   +showing+ (cut face left above
        #   the stub), +panel+ (its width), +slit+, +flap+; +flaps+ the flaps reckoning's answer
        def of(technique, stub_mm:, scion_mm:, bark_mm:, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.cuts.#{key}") }
          kind = KINDS.fetch(technique)
          # A longer face holds better; a thick stick has the wood for it.
          low, high = book["face"]
          face = (low + (high - low) * ((scion_mm - 6) / 8.0)).clamp(low, high)
          found = { kind: kind, face: (face unless FACELESS.include?(kind)) }.compact
          case kind
          when "slit", "side-slit" then found.merge(bevel: book["bevel"],
                                                    showing: technique == "rind" ? book["showing"] : 0.0,
                                                    slit: face * 0.9)
          when "panel" then found.merge(bevel: book["bevel"], shoulder: book["shoulder"].sum / 2.0, panel: scion_mm,
                                        slit: face)
          when "flaps" then flaps(technique, found, stub_mm, scion_mm, bark_mm, book)
          when "cleft" then found.merge(face: book["wedge"], slit: book["wedge"] * 1.15)
          when "tongue", "side-tongue" then found.merge(face: [scion_mm * book["whip_times"], face].min,
                                                        tongue: scion_mm * book["whip_times"] / 3.0)
          else found
          end
        end

        def flaps(technique, found, stub_mm, scion_mm, bark_mm, book)
          flap = book["flap"].sum / 2.0
          answer = Flaps.call(flaps: technique == "four-flap" ? 4 : 3, scion_mm: scion_mm,
                              stock_wood_mm: [stub_mm - 2 * bark_mm, 1.0].max)
          found.merge(face: flap, flap: flap, slit: flap, flaps: answer)
        end
        private_class_method :flaps
      end
    end
  end
end
