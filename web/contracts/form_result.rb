# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # What a form came to. +typed+ is kept for showing again; +unchanged+ names the fields that still read as
      # they were shown.
      FormResult = Struct.new(:values, :errors, :typed, :form, :columns, :unchanged, keyword_init: true) do
        def ok? = errors.empty?

        # A row without the columns whose fields still read as they were shown: what nobody touched keeps its
        # exact value, however it was rounded for showing.
        #
        # @param row [Hash] by column
        def changed(row) = row.reject { |column, _| unchanged&.include?((columns || {}).fetch(column, column)) }

        # Whether every field that was shown came back as it was.
        def untouched? = !form.nil? && form.any? && (form.keys - (unchanged || [])).empty?

        # @return [Object] what to show in a field: what was typed, else what stands
        def shown(name) = typed.fetch(name.to_s) { form&.dig(name) }

        def wrong(name)
          words = errors[name] or return nil

          words.join(words.all? { |each| each.end_with?(".") } ? " " : "; ")
        end

        # The same with more errors, such as those of a deed that refused. A deed speaks of
        # columns; here they are the fields that hold them.
        def with(more)
          named = more.transform_keys { |column| (columns || {}).fetch(column, column) }
          FormResult.new(values: values, typed: typed, form: form, columns: columns, unchanged: unchanged,
                      errors: errors.merge(named) { |_, a, b| a + b })
        end
      end
    end
  end
end
