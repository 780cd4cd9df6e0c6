# frozen_string_literal: true

module Vestry
  module Web
    class Headline
      # What matters of aftercare and of the autumn counts.
      module OfCare
        def tend(agenda)
          return "No tree stands here yet: what each graft wants is told here." if orchard.treeless?
          return idle(agenda) if agenda.due_count.zero?

          first = agenda.most_pressing
          if first.task[:rule] == "false-start"
            return "#{first.label} moved before it can have knit: shade it and look at its seals today."
          end

          "#{how_much_is_due(agenda.due_count, agenda.late_count)}: begin with #{first.label}, " \
            "#{task_title(first.task).downcase}."
        end

        # How much is due, and how much of it is late.
        def how_much_is_due(due, late)
          due == late ? "#{counted_are(late, 'task')} late" :
            "#{counted_are(due, 'task')} due#{", #{late} late" if late.positive?}"
        end
        private :how_much_is_due

        # @param row [Records::CountRow]
        def tally_row(row)
          total = row.asked.size
          return "No graft stands in row #{row.name} to be counted." if total.zero?
          if row.left.empty?
            return "#{all_of(total, 'graft')} in row #{row.name} #{were_counted(total)}."
          end

          counting_opens(total, " in row #{row.name}") ||
            "#{counted(row.left.size, 'graft')} in row #{row.name} still to count: begin with #{row.left.first.label}."
        end

        # @param rows [Array<Hash>] with how many grafts stand there and are counted, as CountRow.all
        # @param part [String, nil] which rows these are, where they are not all
        def tally(rows, part: nil)
          total = rows.sum { |row| row[:grafts] }
          return "No tree stands here yet: grafts are counted here each autumn." if orchard.treeless?
          return "No graft stands to be counted." if total.zero?

          early = counting_opens(total, part)
          return early if early

          open = rows.select { |row| row[:counted] < row[:grafts] }
          return "#{all_of(total, 'graft')}#{part} #{were_counted(total)}." if open.empty?

          first = open.first[:row]
          leading("#{counted(open.sum { |row| row[:grafts] - row[:counted] }, 'graft')}#{part} still to count: begin " \
                  "with row #{first}.", "Count row #{first}", "tally", "?row=#{Rack::Utils.escape(first)}")
        end

        # What a worked tree's winter wants.
        def scaffold(report)
          tree = report.tree
          return "#{tree.label} carries no living graft yet." if report.lines.empty?

          limbs = report.lines.count { |line| line.told.any? { |reason| reason[:code] == "scaffold_is_limb" } }
          shorten = report.varieties.select { |part| part[:shorten].positive? }.map { |part| part[:id] }
          grafts = counted(report.lines.size, "graft")
          stands = if limbs.zero?
              report.lines.size == 1 ? "its graft has not become a limb yet" :
                "none of its #{grafts} has become a limb yet"
            else
              "#{limbs} of #{grafts} #{limbs == 1 ? 'has become a limb' : 'have become limbs'}"
            end
          "#{tree.label}: #{stands}" \
            "#{"; shorten #{listed(shorten)} this winter, or it takes the tree over" if shorten.any?}."
        end

        def task_title(task) = orchard.rulebook.task(task[:rule])["title"]

        private

        # With nothing due, a nurse limb that has done its work comes off, and one that shades the grafts is shortened.
        def idle(agenda)
          told = Records::Nurses.to_cut(orchard, @today).filter_map do |action, labels|
            nurses_words(labels, action) if labels.any?
          end
          told.empty? ? "Nothing is due today#{next_words(agenda)}." : "Nothing else is due today: #{told.join('; ')}."
        end

        def nurses_words(labels, action)
          what = { "off" => "can come off", "shorten" => "#{labels.one? ? 'is' : 'are'} to be shortened" }
          "nurse #{labels.one? ? 'limb' : 'limbs'} #{listed_some(labels, 4)} #{what.fetch(action)}"
        end

        # From winter on, autumn is the last one.
        def were_counted(total)
          winter = orchard.season.next_day(orchard.rulebook.value("care.calendar.winter"),
                                           Records::CountRow.opens_on(orchard, @today))
          return "#{total == 1 ? 'is' : 'are'} counted this autumn" if @today < winter

          "#{total == 1 ? 'was' : 'were'} counted last autumn"
        end

        # That it is too early to count, and from when it is not.
        def counting_opens(total, part)
          opens = Records::CountRow.opens_on(orchard, @today)
          if @today < opens
            "Counting begins on #{day(opens)}, when growth has stopped: #{counted(total, 'graft')}#{part} to measure."
          end
        end

        def next_words(agenda)
          item = agenda.ahead.min_by { |each| each.task[:opens_on] }
          item ? "; next is #{item.label}, #{task_title(item.task).downcase}, from #{day(item.task[:opens_on])}" : ""
        end
      end
    end
  end
end
