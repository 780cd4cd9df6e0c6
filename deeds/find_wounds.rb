# frozen_string_literal: true

module Vestry
  module Deeds
    # Notes trees that were stripped of bark, several at once: after a hard winter they are many. What
    # is known of each is a line:
    #
    #   C10 girth 570 bark 10% drying
    #   C11 girth 51 cm bark none buried
    module FindWounds
      # A line that was read, or why not.
      ReadLine = Struct.new(:number, :text, :tree, :values, :why, keyword_init: true) do
        def ok? = why.nil?
      end
      MARKS = { "buried" => :buried, "drying" => :drying, "covered" => :covered, "rootless" => :root_bark,
                "grafted-low" => :below_union }.freeze
      SHARES = { "none" => 0.0, "all" => 1.0, "half" => 0.5, "quarter" => 0.25, "third" => 1 / 3.0 }.freeze
      MOST = 200
      # A girth as it is called out, by the units of bare numbers.
      GIRTH = { "metric" => "girth 570", "imperial" => "girth 22 1/2 in" }.freeze

      module_function

      # @param units [String] of bare numbers
      # @return [Array<ReadLine>] empty lines are passed over
      def read(orchard, text, units: orchard.units)
        text.to_s.lines.first(MOST).each_with_index.filter_map do |line, index|
          next if line.strip.empty?

          tree, values = line_of(orchard, line.strip, units)
          ReadLine.new(number: index + 1, text: line.strip, tree: tree, values: values)
        rescue Core::BadInput => e
          ReadLine.new(number: index + 1, text: line.strip, why: e.allowed)
        end.then { |reads| twice(orchard, reads) }
      end

      # @param values [Hash] what they share: +cause+, +happened_on+, +found_on+, +client_key+
      # @return [Array<Records::Wound>]
      # @raise [Refused]
      def call(orchard, reads, values, by:, today:)
        check_days(values, today)
        raise Refused, lines: ["say which trees: a line each"] if reads.empty?
        unless reads.all?(&:ok?)
          raise Refused, lines: reads.reject(&:ok?).map { |read| "line #{read.number}: #{read.why}" }
        end

        DB.transaction do
          reads.map { |read| Ledger.add(Records::Wound, row(orchard, read, values), by: by) }
        end
      end

      def row(orchard, read, values)
        covered = read.values[:covered]
        key = values[:client_key] && derived(values[:client_key], read.number)
        values.slice(:cause, :happened_on, :found_on).merge(read.values.except(:covered))
          .merge(orchard_id: orchard.id, tree_id: read.tree.id, covered_on: covered ? values[:found_on] : nil,
                 client_key: key)
      end

      # A key for each tree of a form, made from the form's own.
      def derived(key, number) = key.sub(/\h{4}\z/) { |tail| format("%04x", (tail.hex + number) % 0x10000) }

      def check_days(values, today)
        errors = {}
        errors[:found_on] = [SaidDay.ahead(today)] if values[:found_on] > today
        if values[:happened_on] && values[:happened_on] > values[:found_on]
          errors[:happened_on] = ["cannot be after it was found"]
        end
        if values[:happened_on] && values[:happened_on] < values[:found_on] << 36
          errors[:happened_on] = ["is more than three years before it was found"]
        end
        raise Refused, errors if errors.any?
      end

      def line_of(orchard, line, units)
        label, rest = line.split(/[\s,:]+/, 2)
        tree = Records::Finder
          .tree(orchard, label) or refuse("#{label} is not a tree here; write its row and number, as A3")
        unless Core::Rulebook.shipped.species_names.include?(tree.species)
          refuse("#{tree.label} is a #{tree.species}: there is no rule for its kind")
        end

        rest = rest.to_s.strip
        values = {}
        rest, values[:bark_left] = share(rest)
        sure = rest.slice!(/(?<=\s|\A)sure(?=\s|,|\z)/i)
        MARKS.each { |word, name| values[name] = word != "rootless" if rest.slice!(/(?<=\s|\A)#{word}(?=\s|,|\z)/i) }
        girth(tree, rest.gsub(/(?<=\s|\A),|,(?=\s|\z)/, " ").sub(/\bgirth\b/i, " ").strip, values, orchard, sure, units)
        [tree, values]
      end

      # What is left after the words is the girth; without it, the tree's own.
      def girth(tree, said, values, orchard, sure, units)
        if said.empty?
          values[:girth_mm] = tree.trunk_girth_mm or
            refuse("say the girth of the trunk, as #{GIRTH.fetch(orchard.units)}")
          return
        end
        mm = Core::Measure.parse(said, units: units).mm
        plausible(tree, mm, orchard) unless sure && mm.positive?
        values.merge!(girth_mm: mm, girth_typed: said[0, 40])
      rescue Core::BadInput => e
        raise e unless e.field.to_s == "measure"

        refuse("“#{said[0, 30]}” is neither a girth nor one of bark, #{MARKS.keys.join(', ')}")
      end

      # A trunk three metres round, or a quarter of what was surveyed, is a slip of the unit.
      def plausible(tree, mm, orchard)
        doubt = doubt(tree, mm, orchard.units)
        refuse("#{doubt} Check the unit, or say sure after it") if doubt
      end

      # Why a girth is asked about; nil when it is likely.
      def doubt(tree, mm, units)
        known = tree.trunk_girth_mm&.to_f
        times = Core::Rulebook.shipped.value("plausible.wounded_times")
        low, high = known ? [known / times, known * times] : Core::Rulebook.shipped.value("plausible.wounded_girth")
        return nil if Core::Near.within?(mm, low, high)

        "#{Core::Measure.say(mm, units)} round is not likely " \
        "for #{tree.label}#{known ? ", surveyed at #{Core::Measure.say(known, units)}" : ''}: is that so?"
      end

      WANTS_SHARE = "wants the share left alive after it: 10 %, none, quarter, third or half"
      private_constant :WANTS_SHARE

      def share(text)
        rest = text.dup
        refuse("“bark” #{WANTS_SHARE}") if rest.match?(/(?<=\s|\A)bark(?:\s+left)?\s*\z/i)
        said = rest.slice!(/(?<=\s|\A)bark\s+(?:left\s+)?(\S+(?:\s+%)?)/i)&.split(/\s+/)&.reject { |word| word
          .match?(/\A(bark|left)\z/i) }&.join or return [rest, nil]
        number = SHARES[said.downcase] || Float(said.delete("%").tr(",", "."), exception: false)&.then do |value|
          said.include?("%") || value > 1 ? value / 100 : value
        end
        unless number&.between?(0, 1)
          refuse("“#{said[0, 20]}” is no share; bark #{WANTS_SHARE}")
        end

        [rest, number]
      end

      def twice(orchard, reads)
        open = Records::Wound.open_tree_ids(orchard)
        seen = []
        reads.map do |read|
          next read unless read.ok?

          why = "#{read.tree.label} is in a line above already" if seen.include?(read.tree.id)
          if open.include?(read.tree.id)
            why ||= "#{read.tree.label} is on the list already, and not repaired yet: open it there"
          end
          seen << read.tree.id
          why ? ReadLine.new(number: read.number, text: read.text, why: why) : read
        end
      end

      def refuse(words) = raise(Core::BadInput.new(:line, words))
    end
  end
end
