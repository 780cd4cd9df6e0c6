# frozen_string_literal: true

require "csv"

module Vestry
  module Records
    # Trees, limbs or points read from a file: each line's fate, then all of them written at
    # once. Nothing is written while reading.
    class TreeFile
      Unreadable = FileText::Unreadable

      KINDS = %w[trees limbs waypoints places].freeze
      NEEDED = { "trees" => %w[row number species], "limbs" => %w[tree tag] }.freeze
      KNOWN = {
        "trees" => %w[row number species form vigour condition rootstock variety planted_year x_m y_m latitude longitude
                      height_mm trunk_girth_mm notes],
        "limbs" => %w[tree tag parent fork_mm bearing_deg rise_deg girth_mm wide_mm narrow_mm length_mm bark_mm bark
                      flat_deg straight damage leader surveyed_on]
      }.freeze
      NUMBERS = {
        "number" => 1..100_000, "planted_year" => 1700..2200, "x_m" => -100_000..100_000, "y_m" => -100_000..100_000,
        "latitude" => -90..90, "longitude" => -180..180,
        "height_mm" => 300..30_000, "trunk_girth_mm" => 40..8000, "fork_mm" => 0..15_000, "bearing_deg" => 0..360,
        "rise_deg" => -90..90, "girth_mm" => 20..3000,
        "wide_mm" => 5..1000, "narrow_mm" => 5..1000, "length_mm" => 100..15_000, "bark_mm" => 0..60,
        "flat_deg" => 0..360
      }.freeze
      WHOLE = %w[number planted_year].freeze
      MOST_LINES = 300_000
      LineFate = Struct.new(:line, :label, :fault, :values, keyword_init: true)

      # @param kind [String] trees, limbs, waypoints (GPX) or places (GeoJSON)
      # @param bytes [String] the file as it came
      # @param today [Date] the survey's day where a limb does not say
      def initialize(orchard, kind, bytes, today:, import: nil)
        @orchard = orchard
        @kind = kind
        @bytes = bytes
        @today = today
        @import = import
      end

      # Every line with its fate.
      #
      # @return [Array<LineFate>]
      # @raise [Unreadable]
      def fates
        @fates ||= case @kind
                   when "waypoints" then point_fates(PointFile.gpx(text))
                   when "places" then point_fates(PointFile.geojson(text))
                   else csv_fates.tap { |all| beside_leaders(all) if @kind == "limbs" }
                   end
      end

      def faults = fates.select(&:fault)

      # Writes every line, by COPY.
      #
      # @yield [Integer] how many lines are through
      # @raise [Unreadable] when any line has a fault
      def write
        raise Unreadable, "line #{faults.first.line}: #{faults.first.fault}" if faults.any?

        columns = (@kind == "limbs" ? limb_columns : tree_columns) + [:import_id]
        written = 0
        fates.each_slice(5000) do |slice|
          DB.copy_into(@kind == "limbs" ? :limbs : :trees, columns: columns, format: :csv,
                       data: slice.map { |fate| CSV.generate_line(columns.map { |column| column == :import_id ?
                         @import&.id : fate.values[column] }) })
          written += slice.size
          yield written if block_given?
        end
        # So many new rows at once: the planner must know of them before the next statement.
        DB.run("ANALYZE #{@kind == 'limbs' ? 'limbs' : 'trees'}")
        settle_parents if @kind == "limbs"
        Places.settle(@orchard) unless @kind == "limbs"
      end

      private

      # --- reading

      def text = @text ||= FileText.of(@bytes)

      def csv_fates
        table = CSV.new(text, headers: true, col_sep: FileText.delimiter(text), liberal_parsing: false,
                        field_size_limit: FileText::LONGEST_CELL,
                        header_converters: ->(name) { name.to_s.strip.downcase.tr(" ", "_") })
        line_fates(table).tap { |fates| raise Unreadable, "It has a heading and no lines." if fates.empty? }
      rescue CSV::MalformedCSVError => e
        raise Unreadable, "Line #{e.line_number}: #{e.message.sub(/ in line \d+\.?\z/, '').downcase}."
      end

      def line_fates(table)
        fates = []
        table.each do |row|
          next if row.fields.compact.empty?

          headings(table.headers) if fates.empty?
          fates << fate(row, table.lineno)
          raise Unreadable, "It has more than #{MOST_LINES} lines; bring it in in parts." if fates.size > MOST_LINES
        end
        fates
      end

      def headings(names)
        known, said = KNOWN.fetch(@kind), names.compact
        missing, strange = NEEDED.fetch(@kind) - said, said.reject(&:empty?) - known
        are = "columns are #{known.join(', ')}."
        raise Unreadable, "The heading lacks #{missing.join(', ')}. It has #{said.join(', ')}; #{are}" if missing.any?
        raise Unreadable, "The heading has #{strange.first(4).join(', ')}, which is not known; #{are}" if strange.any?

        twice = said.tally.find { |_, count| count > 1 }
        raise Unreadable, "The heading names #{twice.first} twice." if twice
      end

      def fate(row, line)
        facts = {}
        fault = nil
        row.each do |name, value|
          next if name.nil? || value.nil? || (value = value.strip).empty?

          if NUMBERS[name]
            number, fault = number(name, value, fault)
            facts[name] = number
          else
            facts[name] = value[0, 2000]
          end
        end
        fault ||= "has more fields than the heading" if row.headers.include?(nil) && row[nil]
        send("#{@kind}_fate", facts, line, fault)
      end

      def number(name, value, fault)
        number = Core::Values.number(value)
        range = NUMBERS[name]
        return [nil, fault || "column #{name}: “#{value[0, 30]}” is not a number"] unless number
        unless range.cover?(number)
          return [nil, fault || "column #{name}: #{value} is not from #{range.min} to #{range.max}"]
        end
        if WHOLE.include?(name) && number != number.round
          return [nil, fault || "column #{name}: #{value} is not a whole number"]
        end

        number %= 360 if name.end_with?("bearing_deg", "flat_deg")
        [WHOLE.include?(name) ? number.round : number, fault]
      end

      # --- trees

      def known_trees
        @known_trees ||= DB[:trees].where(orchard_id: @orchard.id).select_map(%i[row number id])
          .to_h do |row, number, id|
          ["#{row}#{number}".upcase, id]
        end
      end
      def known_varieties = @known_varieties ||= Variety.by_name(@orchard).transform_keys(&:downcase)
      def variety_id(name) = name && known_varieties[name.downcase]
      def seen = @seen ||= {}

      def trees_fate(facts, line, fault)
        facts["row"] = facts["row"]&.upcase
        facts["species"] = facts["species"]&.downcase
        facts["form"] = (facts["form"] || "bush").downcase.tr(" _", "--")
        label = "#{facts['row']}#{facts['number']}"
        fault ||= tree_fault(facts, label)
        seen[label] ||= line
        variety = facts.delete("variety")
        LineFate.new(line: line, label: label, fault: fault,
                 values: facts.transform_keys(&:to_sym).merge(orchard_id: @orchard.id,
                                                              variety_id: variety_id(variety)))
      end

      def tree_fault(facts, label)
        missing = %w[row number species].find { |name| facts[name].nil? }
        return "column #{missing}: is empty" if missing
        unless facts["row"].match?(/\A[[:alpha:]]{1,8}\z/)
          return "column row: “#{facts['row']}” is not a letter or a few"
        end
        unless Core::Rulebook.shipped.species_names.include?(facts["species"])
          return "column species: “#{facts['species']}” is not known; one " \
                 "of #{Core::Rulebook.shipped.species_names.join(', ')}"
        end
        unless Tree::FORMS.include?(facts["form"])
          return "column form: “#{facts['form']}” is not one of #{Tree::FORMS.join(', ')}"
        end
        if facts["variety"] && variety_id(facts["variety"]).nil?
          return "column variety: “#{facts['variety']}” is not in the register"
        end
        return "#{label} stands here already" if known_trees.key?(label)

        "#{label} is in line #{seen[label]} already" if seen.key?(label)
      end

      def tree_columns
        %i[orchard_id row number species form vigour condition rootstock variety_id planted_year x_m y_m latitude
           longitude height_mm trunk_girth_mm notes]
      end

      # --- limbs

      def known_limbs
        @known_limbs ||= DB[:limbs].where(orchard_id: @orchard.id).select_map(%i[tree_id tag]).to_h do |tree, tag|
          [[tree, tag.upcase], true]
        end
      end

      def limbs_fate(facts, line, fault)
        tree = known_trees[facts["tree"].to_s.upcase]
        label = "#{facts['tree']} #{facts['tag']}"
        fault ||= limb_fault(facts, tree, label)
        seen[[tree, facts["tag"]&.upcase]] ||= line
        facts["surveyed_on"] ||= @today.iso8601
        parent = facts.delete("parent")
        LineFate.new(line: line, label: label, fault: fault,
                 values: facts.except("tree").transform_keys(&:to_sym)
                   .merge(orchard_id: @orchard.id, tree_id: tree, parent_tag: parent))
      end

      def limb_fault(facts, tree, label)
        return "column tree: “#{facts['tree']}” does not stand here" unless tree
        unless facts["tag"].to_s.match?(/\A[[:alnum:]]{1,12}\z/)
          return "column tag: “#{facts['tag']}” is not a tag of letters and digits"
        end
        unless facts["girth_mm"] || (facts["wide_mm"] && facts["narrow_mm"])
          return "has no thickness: give girth_mm, or wide_mm and narrow_mm"
        end
        most = Core::Survey::Section.too_much_bark(facts.transform_keys(&:to_sym))
        return "column bark_mm: leaves no wood: below #{most}, half its thickness" if most

        if facts["surveyed_on"] && !date?(facts["surveyed_on"])
          return "column surveyed_on: “#{facts['surveyed_on']}” is not a date as YYYY-MM-DD"
        end
        leader_fault(facts, tree, label) || twice(tree, facts["tag"].upcase, label) || parent_fault(facts, tree)
      end

      def twice(tree, tag, label)
        return "#{label} is there already" if known_limbs.key?([tree, tag])

        "#{label} is in line #{seen[[tree, tag]]} already" if seen.key?([tree, tag])
      end

      def parent_fault(facts, tree)
        parent = facts["parent"]
        return nil unless parent
        return "column parent: a limb does not grow from itself" if parent.casecmp?(facts["tag"])

        unless known_limbs.key?([tree, parent.upcase]) || seen.key?([tree, parent.upcase])
          "column parent: #{facts['tree']} has no limb #{parent} here or in a line before"
        end
      end

      # What leaves the trunk above where its leader begins grows on the leader.
      def beside_leaders(all)
        leaders = all.select { |fate| fate.values[:leader] && fate.values[:fork_mm] && !fate.fault }
          .to_h { |fate| [fate.values[:tree_id], fate] }
        all.each do |fate|
          leader = leaders[fate.values[:tree_id]]
          next if leader.nil? || fate.fault || fate.values[:parent_tag] || fate.equal?(leader)
          next unless fate.values[:fork_mm].to_f > leader.values[:fork_mm]

          fate.fault = "column fork_mm: the trunk is the leader #{leader.values[:tag]} there; its parent is " \
                       "#{leader.values[:tag]}"
        end
      end

      YES = { "yes" => true, "true" => true, "t" => true, "no" => false, "false" => false, "f" => false }.freeze

      # A tree has one leader, which is the trunk itself.
      def leader_fault(facts, tree, label)
        said = facts.delete("leader") || "no"
        return "column leader: “#{said}” is not yes or no" unless YES.key?(said.downcase)
        return unless (facts["leader"] = YES[said.downcase])
        return "column leader: the leader grows on no limb" if facts["parent"]

        @leaders ||= Limb.where(orchard_id: @orchard.id, leader: true, gone_on: nil, hidden_at: nil)
          .select_hash(:tree_id, :tag)
        other = @leaders[tree]
        @leaders[tree] = label
        "column leader: #{facts['tree']} has a leader already, #{other}" if other
      end

      def date?(value) = !Core::Values.day(value).nil?

      def limb_columns
        %i[orchard_id tree_id tag fork_mm bearing_deg rise_deg girth_mm wide_mm narrow_mm length_mm bark_mm bark
           flat_deg straight damage leader surveyed_on]
      end

      # Branches are joined to their limbs once all of them are there.
      def settle_parents
        pairs = fates.select { |fate| fate.values[:parent_tag] }.map do |fate|
          [fate.values[:tree_id], fate.values[:tag], fate.values[:parent_tag]]
        end
        return if pairs.empty?

        DB.create_table(:limb_parents, temp: true, on_commit: :drop) do
          Integer :tree_id; String :tag; String :parent_tag
        end
        DB.copy_into(:limb_parents, columns: %i[tree_id tag parent_tag], format: :csv,
                     data: pairs.map { |pair| CSV.generate_line(pair) })
        DB.run("ANALYZE limb_parents")
        DB.run(<<~SQL)
          UPDATE limbs SET parent_id = above.id FROM limb_parents, limbs AS above
          WHERE limbs.tree_id = limb_parents.tree_id AND limbs.tag = limb_parents.tag
            AND above.tree_id = limb_parents.tree_id AND upper(above.tag) = upper(limb_parents.parent_tag)
        SQL
      end

      # --- points

      # Each point is a tree whose name is its row and number, as "C7" or "C 7"; what is not said of it
      # is asked for by the form's defaults.
      def point_fates(points)
        points.map do |point|
          name = point.name.to_s.strip
          facts = point_facts(point, name)
          fault = facts.key?("row") ? nil : "the name “#{name[0, 30]}” is not a row and a number, such as C7"
          { "latitude" => point.latitude, "longitude" => point.longitude }.each do |column, said|
            facts[column], fault = number(column, said.to_s, fault)
          end
          trees_fate(facts, point.line, fault)
        end
      end

      def point_facts(point, name)
        row, number = name.match(/\A([[:alpha:]]{1,8})[\s-]*(\d{1,6})\z/)&.captures
        kind = point.species.to_s.strip
        { "row" => row, "number" => number&.to_i, "species" => kind.empty? ? "apple" : kind,
          "variety" => point.variety }.compact
      end
    end
  end
end
