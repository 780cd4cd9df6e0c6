# frozen_string_literal: true

module Vestry
  module Deeds
    # Brings a file in: first previewed, then written as a whole or not at all.
    module ImportFile
      MOST_BYTES = 40 * 1024 * 1024
      FAULTS_KEPT = 500
      # So many lines are shown, whether or not they can be read.
      SAMPLE = 100
      # So much of what stands in a cell is shown of it.
      LONGEST_SAID = 60
      # A file up to this size is looked through while its sender waits.
      AT_ONCE_BYTES = 256 * 1024
      KINDS = (Records::TreeFile::KINDS + Records::TableFile::KINDS + %w[station]).freeze

      # A file of any kind, to be asked for each line's fate.
      def self.file(orchard, kind, bytes, today:, import: nil, layout: import&.layout)
        if layout
          return Records::MatchedFile.new(orchard, kind, bytes, layout.to_h, today: today, import: import)
        end
        return Records::TableFile.new(orchard, kind, bytes, import: import) if Records::TableFile.reads?(kind, bytes)

        Records::TreeFile.new(orchard, kind, bytes, today: today, import: import)
      end

      # Looks a file through: a small one at once, a large one in the background. One that is not laid out as ours are
      # is matched first, unless one that looks like it was matched before.
      #
      # @return [Records::Import] with every line's fate counted, and the faults; or to be matched
      # @raise [Refused] when the file cannot be read
      def self.preview(orchard, kind, name, bytes, by:, today:)
        raise Refused, kind: ["is one of #{KINDS.join(', ')}"] unless KINDS.include?(kind)
        raise Refused, file: ["Choose a file first."] if bytes.nil?
        if bytes.bytesize > MOST_BYTES
          raise Refused, file: ["It is larger than #{MOST_BYTES / 1024 / 1024} MB; bring it in in parts."]
        end

        import = Records::Import.create(orchard_id: orchard.id, kind: kind,
                                        file_name: name.to_s.scrub("?").gsub(/[[:cntrl:]]/, " ")[0, 200],
                                        content: bytes, state: "reading", by: by)
        return import if MatchTable.wanted?(import) && !MatchTable.remembered(import)

        read_on(import, today: today)
      rescue Records::FileText::Unreadable => e
        import.delete
        raise Refused, file: [e.message]
      end

      # @raise [Refused] when the file cannot be read
      def self.read_on(import, today:)
        bytes = import.content
        bytes.bytesize > AT_ONCE_BYTES ? Jobs::ImportStep.enqueue(import.id, "preview") :
          look_through(import, today: today)
        return import.refresh unless import.state == "failed"

        trouble = import.trouble
        import.delete
        raise Refused, file: [trouble]
      end

      # Finds each line's fate, and writes down what is shown of them.
      def self.look_through(import, today:)
        return unless import.state == "reading"

        file = file(import.orchard, import.kind, import.content, today: today, layout: import.layout)
        fates = file.fates
        faults = fates.select(&:fault)
        import.update(state: "previewed", lines: fates.size, good: fates.size - faults.size,
                      faults: faults.first(FAULTS_KEPT).map { |fate| line_result(fate) }, sample: sample(file, import))
      rescue Records::FileText::Unreadable => e
        import.update(state: "failed", trouble: e.message)
      end

      # The first lines, with what a table from elsewhere was understood to say.
      def self.sample(file, import)
        understood = import.layout ? file.understood.first(SAMPLE) : []
        file.fates.first(SAMPLE).zip(understood).map { |fate, said| line_result(fate, said) }
      end

      def self.line_result(fate, understood = nil)
        left_out = fate.left_out if fate.respond_to?(:left_out)
        { "line" => fate.line, "label" => fate.label, "fault" => fate.fault, "left_out" => left_out,
          "understood" => understood&.transform_values { |said| said[0, LONGEST_SAID] } }.compact
      end
      private_class_method :sample, :line_result

      # Sends a previewed file on its way. Asked twice, it goes once.
      def self.begin(import)
        raise Refused, file: ["It is still being looked through."] if import.state == "reading"
        if import.good < import.lines
          raise Refused, file: ["Some lines cannot be read; mend the file and bring it in again."]
        end

        DB.transaction do
          next unless import.advance("previewed", state: "waiting")

          Jobs::ImportStep.enqueue(import.id, "write")
        end
      end

      # Writes it: all of it, or none. Progress is told from outside the transaction.
      def self.write(import, today:)
        return unless import.advance(%w[waiting running], state: "running", done: 0)

        DB.transaction(savepoint: true) do
          Records::Connection.allow("15min")
          file = file(import.orchard, import.kind, import.content, today: today, import: import)
          far = Progress.new(import)
          file.write { |lines| far.tell(done: lines) }
          import.note("add", file.fates.size, by: import.by)
          import.finish("done", done: file.fates.size)
        end
      rescue Records::FileText::Unreadable, Sequel::DatabaseError => e
        import.fail_with(e, done: 0)
      end

      # Takes back what a file brought in, while nothing was done to it since.
      #
      # @raise [Refused]
      def self.undo(import, by:)
        unless import.state == "done" && import.undone_at.nil?
          raise Refused, file: ["It is not in, or was taken back already."]
        end
        raise Refused, file: ["It came in too long ago to be taken back as a whole."] unless import.whole?

        return UndoImport.call(import, by: by) if import.by_table?

        if import.touched?
          raise Refused, file: [import.kind == "limbs" ? "Some of these limbs were grafted since: they stay." :
                                "Some of these trees have limbs or grafts now: they stay."]
        end

        DB.transaction do
          import.note("hide", import.hide_rows, by: by)
          import.update(undone_at: Time.now.utc)
        end
      end
    end
  end
end
