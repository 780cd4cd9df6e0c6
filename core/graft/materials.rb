# frozen_string_literal: true

module Vestry
  module Core
    module Graft
      # What a day of grafts uses up, summed over its stubs, with a spare tenth.
      module Materials
        extend Reckoning

        contract "materials", "What a day of grafts uses up, with a spare tenth" do
          list :stubs do
            name :method, -> { Rulebook.shipped.method_names }
            number :stub_mm, unit: "mm", above: 0
            name :species, -> { Rulebook.shipped.species_names }, optional: true
            integer :sticks, above: 0, most: 12, default: 1
            name :school, -> { Rulebook.shipped.school_names }, optional: true
          end
          name :school, -> { Rulebook.shipped.school_names }
        end

        # Tape by the helix it makes; the rest by the stub, the stick or the area to be closed, as the
        # rulebook says. Whole things are rounded up after the spare is added.
        #
        # @param school [String] of the stubs that name none of their own
        # @return [Hash] +items+, each with +item+ (a material's name), +amount+ and +unit+
        def self.call(stubs:, school:, rulebook: Rulebook.shipped)
          stubs = stubs.map { |stub| stub.merge(school: stub[:school] || school) }
          brought = stubs.map { |stub| stub[:school] }.uniq.to_h { |each| [each, rulebook.materials(each)] }
          names = brought.values.flatten | rulebook.book("materials").fetch("evergreen")
          { items: names.map { |name| item(name, stubs, brought, rulebook) }.reject { |each| each[:amount].zero? } }
        end

        # How much of one material all of them take.
        def self.item(name, stubs, brought, rulebook)
          unit = rulebook.book("materials").dig("items", name, "unit")
          using = stubs.select { |stub| used?(name, stub, brought.fetch(stub[:school]), rulebook) }
          amount = using.sum(0.0) { |stub| of(name, stub, rulebook) } * (1 + rulebook.value("materials.use.spare"))
          { item: name, unit: unit, amount: unit == "piece" ? piece(name, amount, using, rulebook) : amount }
        end

        # Whether a graft takes it: by the practice or its kind, and by what its method makes.
        def self.used?(name, stub, brought, rulebook)
          return false unless brought.include?(name) ||
            (rulebook.book("materials").fetch("evergreen").include?(name) && stub[:species] &&
             rulebook.evergreen?(stub[:species]))

          cuts = rulebook.method_fact(stub[:method], "cuts")
          case rulebook.book("materials").dig("items", name, "only")
          when "sticks" then !Figures::FACELESS.include?(cuts)
          when "ends" then Figures::AT_END.include?(cuts)
          when "bark" then Figures::UNDER_BARK.include?(cuts)
          when "flaps" then cuts == "flaps"
          when "split" then cuts == "cleft" && stub[:stub_mm] >= rulebook.value("reckoning.cuts.thick")
          else true
          end
        end

        def self.of(name, stub, rulebook)
          use = ->(key) { rulebook.value("materials.use.#{key}") }
          case name
          when "stretch-tape", "film" then tape(name, stub, use)
          when "grafting-wax", "sealing-paste" then (cut_face(stub, rulebook) +
                                                     stub[:sticks] * use["seal_stick"]) * use["seal_area"]
          when "wood-glue" then stub[:sticks] * use["glue"]
          when "foil" then stub[:stub_mm] * Math::PI / 10 + use["foil_over"]
          when "pins" then stub[:sticks] * use["pins"]
          when "bands", "labels", "ties", "bag", "perch", "brace" then 1
          else 0
          end
        end

        # The end of a stub in cm²; what goes into the side leaves none.
        def self.cut_face(stub, rulebook)
          Figures::AT_END.include?(rulebook.method_fact(stub[:method], "cuts")) ? Math::PI * stub[:stub_mm]**2 / 400 : 0
        end

        def self.tape(name, stub, use)
          along = use["wrap"] + (name == "film" ? stub[:sticks] * use["film_stick"] : 0)
          Tape.call(diameter_mm: stub[:stub_mm], wrap_mm: along, tape_mm: use["#{name}_width"], overlap: use["overlap"],
                    passes: 2)[:length_mm] / 1000
        end

        # One of a tool serves the day, where something is made with it.
        def self.piece(name, amount, using, rulebook)
          tool = rulebook.book("materials").dig("items", name, "tool")
          tool ? [using.size, 1].min : Near.ceil(amount)
        end
        private_class_method :item, :used?, :of, :cut_face, :tape, :piece
      end
    end
  end
end
