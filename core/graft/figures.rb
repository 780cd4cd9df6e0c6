# frozen_string_literal: true

module Vestry
  module Core
    module Graft
      # The lengths of a method's cuts for one stick and one stub.
      module Figures
        # The kinds of cut there are figures for.
        KINDS = %w[slit side-slit panel flaps cleft tongue side-tongue shield chip approach bridge].freeze
        # Kinds that work the end of a stub, and those set into what stands; a bridge is drawn on its trunk.
        AT_END = %w[slit panel flaps cleft tongue].freeze
        IN_SIDE = %w[side-slit side-tongue shield chip approach].freeze
        # Kinds that have no long face.
        FACELESS = %w[shield chip approach].freeze

        module_function

        # @param technique [String]
        # @param stub_mm [Float] bark and all
        # @param scion_mm [Float]
        # @param bark_mm [Float] of the stock
        # @return [Hash] +kind+ and lengths in mm: +face+ (none for a bud or an approach), +shoulder+, +bevel+,
        #   +showing+ (cut face left above
        #   the stub), +panel+ (its width), +slit+, +flap+; +flaps+ the flaps reckoning's answer; +meets+ of a cleft
        def of(technique, stub_mm:, scion_mm:, bark_mm:, rulebook: Rulebook.shipped)
          book = ->(key) { rulebook.value("reckoning.cuts.#{key}") }
          kind = rulebook.method_fact(technique, "cuts")
          face = face(scion_mm, book)
          found = { kind: kind, face: (face unless FACELESS.include?(kind)) }.compact
          return found.merge(under_bark(kind, technique, face, scion_mm, rulebook)) if UNDER_BARK.include?(kind)

          case kind
          when "flaps"
            flaps(rulebook.method_fact(technique, "flaps"), found, scion_mm, [stub_mm - 2 * bark_mm, 1.0].max, book)
          when "cleft" then cleft(book["wedge"], scion_mm, bark_mm, rulebook)
          when "tongue", "side-tongue" then found.merge(sloped(scion_mm, face, book))
          when *FACELESS then found.merge(joint: book[kind == "approach" ? "joint" : "shield"])
          else found
          end
        end

        # A wedge in the split middle of the stub.
        def cleft(wedge, scion_mm, bark_mm, rulebook)
          { kind: "cleft", face: wedge, slit: wedge * 1.15, meets: meets(wedge, scion_mm, bark_mm, rulebook) }
        end

        # How much of a face meets where cambium is set against cambium.
        #
        # @param bark_mm [Float] of the stock
        # @return [Hash] +offset_mm+, by which the stick's cambium lies outside the stock's when it is set flush at the
        #   outer bark; +flush+, the share of the face that meets then; +lean_deg+, and +leaned_mm+, so much of it as
        #   meets when it is set that much further in and leaned, and the eye is +eye_mm+ out
        def meets(face_mm, scion_mm, bark_mm, rulebook)
          offset = bark_mm - Survey::Bark.call(diameter_mm: scion_mm, rulebook: rulebook)[:bark_mm]
          lean, eye = %w[lean eye].map { |name| rulebook.value("reckoning.cuts.#{name}") }
          { offset_mm: offset, flush: Practice::Contact.call(length_mm: face_mm, offset_mm: offset)[:share],
            lean_deg: lean, eye_mm: eye,
            leaned_mm: Practice::Contact.call(length_mm: face_mm, offset_mm: eye, tilt_deg: lean)[:contact_mm] }
        end

        # Kinds whose stick lies under bark.
        UNDER_BARK = %w[slit side-slit panel].freeze

        # A longer face holds better; a thick stick has the wood for it.
        def face(scion_mm, book)
          low, high = book["face"]
          (low + (high - low) * ((scion_mm - 6) / 8.0)).clamp(low, high)
        end

        def under_bark(kind, technique, face, scion_mm, rulebook)
          book = ->(key) { rulebook.value("reckoning.cuts.#{key}") }
          return { bevel: book["bevel"], shoulder: book["shoulder"].sum / 2.0, panel: scion_mm,
                   slit: [face - book["panel_short"], face / 2].max } if
            kind == "panel"

          { bevel: book["bevel"], slit: face * 0.9,
            showing: rulebook.method_fact(technique, "shows_face") ? book["showing"] : 0.0 }
        end

        def sloped(scion_mm, face, book)
          { face: [scion_mm * book["whip_times"], face].min, tongue: scion_mm * book["whip_times"] / 3.0 }
        end

        def flaps(count, found, scion_mm, wood_mm, book)
          flap = book["flap"].sum / 2.0
          found.merge(face: flap, flap: flap, slit: flap,
                      flaps: Flaps.call(flaps: count, scion_mm: scion_mm, stock_wood_mm: wood_mm))
        end
        private_class_method :face, :under_bark, :sloped, :flaps
      end
    end
  end
end
