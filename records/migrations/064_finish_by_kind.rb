# frozen_string_literal: true

# A bud has its tie and no wrap, seal or cover; what is joined to a rooted plant has its cord.
Sequel.migration do
  up do
    alter_table(:grafts) { %i[wrap seal cover].each { |point| set_column_allow_null point } }
  end

  down do
    from(:grafts).update(wrap: Sequel.function(:coalesce, :wrap, "stretch-tape"),
                         seal: Sequel.function(:coalesce, :seal, "wax"),
                         cover: Sequel.function(:coalesce, :cover, "tape-only"))
    alter_table(:grafts) { %i[wrap seal cover].each { |point| set_column_not_null point } }
  end
end
