# frozen_string_literal: true

module Vestry
  module Records
    # A form that came after its person's session had ended, until they sign in again.
    module TypedForm
      # So many of one person, and so many characters of each.
      MOST = 5
      LONGEST = 200_000
      # What belongs to a session, and not to what was typed.
      WITHOUT = %w[authenticity_token].freeze

      module_function

      # @param fields [Hash] as they came; files are left out
      # @return [Integer, nil] its number; nil where nothing was typed, or too much
      def keep(account_id, path, fields)
        typed = plain(fields.reject { |name, _| WITHOUT.include?(name) })
        return if typed.empty? || JSON.generate(typed).size > LONGEST

        DB.transaction do
          id = DB[:typed_forms].insert(account_id: account_id, path: path, fields: Sequel.pg_jsonb(typed))
          newest = DB[:typed_forms].where(account_id: account_id).order(Sequel.desc(:id)).limit(MOST).select(:id)
          DB[:typed_forms].where(account_id: account_id).exclude(id: newest.from_self).delete
          id
        end
      end

      # @return [Hash, nil] +path+, +fields+ and +created_at+
      def of(account, id) = DB[:typed_forms].first(account_id: account.id, id: RowNumber.read(id))

      def drop(account, id) = DB[:typed_forms].where(account_id: account.id, id: RowNumber.read(id)).delete

      # Words, and lists and tables of words.
      def plain(value)
        case value
        when Hash
          value.key?(:tempfile) || value.key?("tempfile") ? nil :
            value.to_h { |name, each| [name.to_s, plain(each)] }.compact
        when Array then value.filter_map { |each| plain(each) }
        when String then value.scrub("?").delete("\u0000")
        end
      end
      private_class_method :plain
    end
  end
end
